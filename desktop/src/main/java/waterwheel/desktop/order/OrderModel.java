package waterwheel.desktop.order;

import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import java.util.Objects;
import java.util.Optional;
import java.util.concurrent.atomic.AtomicReference;
import java.util.function.Predicate;
import java.util.function.UnaryOperator;
import javafx.application.Platform;
import javafx.beans.property.ReadOnlyBooleanProperty;
import javafx.beans.property.ReadOnlyBooleanWrapper;
import javafx.beans.property.ReadOnlyObjectProperty;
import javafx.beans.property.ReadOnlyObjectWrapper;
import org.jspecify.annotations.Nullable;
import waterwheel.core.edit.History;
import waterwheel.core.errors.SessionFileException;
import waterwheel.core.order.Correction;
import waterwheel.core.order.Part;
import waterwheel.core.order.RunningOrder;
import waterwheel.core.order.Song;
import waterwheel.core.order.SongId;
import waterwheel.core.order.Target;
import waterwheel.core.songs.Equal;
import waterwheel.core.songs.OrderLevels;
import waterwheel.core.songs.OrderPlace;
import waterwheel.core.songs.OrderWatch;
import waterwheel.core.songs.SongRow;
import waterwheel.core.songs.SongTitles;
import waterwheel.core.store.OrderFile;
import waterwheel.core.store.SessionLock;
import waterwheel.desktop.model.Messages;

/** One open running order: its history, its levels, what is selected and proposed. Belongs to the interface thread. */
public final class OrderModel implements AutoCloseable {
    /**
     * What is selected.
     *
     * @param part of the song; empty for its sum
     */
    public record Selection(SongId song, String part) {}

    private final OrderPlace place;
    private final Messages messages;
    private final ReadOnlyObjectWrapper<History<RunningOrder>> history;
    private final ReadOnlyObjectWrapper<OrderLevels> levels;
    private final ReadOnlyObjectWrapper<@Nullable Selection> selection = new ReadOnlyObjectWrapper<>();
    private final ReadOnlyObjectWrapper<List<Equal>> proposals = new ReadOnlyObjectWrapper<>(List.of());
    private final ReadOnlyObjectWrapper<String> section = new ReadOnlyObjectWrapper<>("");
    private final ReadOnlyBooleanWrapper byDistance = new ReadOnlyBooleanWrapper();
    private final ReadOnlyBooleanWrapper unsaved = new ReadOnlyBooleanWrapper();
    private final AtomicReference<@Nullable OrderLevels> arrived = new AtomicReference<>();
    private final OrderWatch watch;
    private final OrderListening listening;
    private OrderFile.Loaded saved;

    /** Opens it. */
    public OrderModel(OrderFile.Loaded loaded, Path file, Messages messages) {
        saved = loaded;
        place = new OrderPlace(file);
        this.messages = messages;
        history = new ReadOnlyObjectWrapper<>(History.of(loaded.order()));
        levels = new ReadOnlyObjectWrapper<>(OrderLevels.pending(loaded.order()));
        watch = new OrderWatch(
                place,
                this::take,
                e -> Platform.runLater(
                        () -> messages.tell("The songs could not be measured: " + e.getMessage() + ".")));
        watch.submit(loaded.order());
        listening = new OrderListening(this, messages);
        loaded.order().songs().stream().findFirst().ifPresent(song -> select(song.id(), ""));
    }

    /** Called by the watch's thread: hands the newest levels over, skipping those that were overtaken on the way. */
    private void take(OrderLevels newest) {
        if (arrived.getAndSet(newest) == null) {
            Platform.runLater(() -> {
                OrderLevels taken = arrived.getAndSet(null);
                // Levels of an earlier state would be shown as if they were true.
                if (taken != null && taken.order().equals(order())) {
                    levels.set(taken);
                    if (!proposals.get().isEmpty()) {
                        propose();
                    }
                }
            });
        }
    }

    void tell(String message) {
        messages.tell(message);
    }

    public OrderPlace place() {
        return place;
    }

    public RunningOrder order() {
        return history.get().present();
    }

    public OrderLevels levels() {
        return levels.get();
    }

    /** What is listened to. */
    public OrderListening listening() {
        return listening;
    }

    public ReadOnlyObjectProperty<History<RunningOrder>> historyProperty() {
        return history.getReadOnlyProperty();
    }

    /** True of the running order as it is now; songs without figures are pending. */
    public ReadOnlyObjectProperty<OrderLevels> levelsProperty() {
        return levels.getReadOnlyProperty();
    }

    public ReadOnlyObjectProperty<@Nullable Selection> selectionProperty() {
        return selection.getReadOnlyProperty();
    }

    /** Gains that are proposed and not taken. */
    public ReadOnlyObjectProperty<List<Equal>> proposalsProperty() {
        return proposals.getReadOnlyProperty();
    }

    /** The section whose figures are shown; empty for whole songs. */
    public ReadOnlyObjectProperty<String> sectionProperty() {
        return section.getReadOnlyProperty();
    }

    /** Whether the song that is furthest off is shown first. */
    public ReadOnlyBooleanProperty byDistanceProperty() {
        return byDistance.getReadOnlyProperty();
    }

    public ReadOnlyBooleanProperty unsavedProperty() {
        return unsaved.getReadOnlyProperty();
    }

    void showSection(String name) {
        section.set(name);
    }

    void sortByDistance(boolean on) {
        byDistance.set(on);
    }

    /** The rows in the order of the screen. */
    List<SongRow> rows() {
        return byDistance.get() ? levels().byDistance(section.get()) : levels().rows();
    }

    /** Selects a part of a song; an empty name selects its sum. */
    public void select(SongId song, String part) {
        selection.set(new Selection(song, part));
        watch.prefer(song);
    }

    Optional<Song> selectedSong() {
        return Optional.ofNullable(selection.get()).flatMap(one -> order().find(one.song()));
    }

    /** Does an edit as a step of its own. */
    public void edit(String name, UnaryOperator<RunningOrder> change) {
        edit(name, change, "");
    }

    /** Does an edit as part of a gesture, which undoes as one step. */
    public void edit(String name, UnaryOperator<RunningOrder> change, String gesture) {
        become(history.get().with(name, change.apply(order()), gesture));
    }

    public void undo() {
        become(history.get().undone());
    }

    public void redo() {
        become(history.get().redone());
    }

    private void become(History<RunningOrder> next) {
        if (next.equals(history.get())) {
            return;
        }
        history.set(next);
        unsaved.set(!order().equals(saved.order()));
        proposals.set(List.of());
        levels.set(levels().of(order()));
        watch.submit(order());
        if (selectedSong().isEmpty()) {
            selection.set(
                    order().songs().isEmpty()
                            ? null
                            : new Selection(order().songs().getFirst().id(), ""));
        }
        listening.follow();
    }

    void correct(SongId song, String part, Correction correction, String gesture) {
        edit("Correction of " + part, order -> order.withSong(song, one -> one.with(part, correction)), gesture);
    }

    void aim(String what, Target target) {
        edit(what, order -> order.withTarget(target));
    }

    void aim(Part part) {
        edit("Target of " + part.name(), order -> order.with(part));
    }

    /** Proposes what brings every song to its target. */
    public void propose() {
        proposals.set(Equal.of(levels(), List.of()));
    }

    /** Takes all that is proposed. */
    public void accept() {
        accept(one -> true);
    }

    /** Takes what is proposed for the selected part; for all of the song where its sum is selected. */
    public void acceptSelected() {
        Selection selected = selection.get();
        if (selected != null) {
            accept(one -> one.song().equals(selected.song())
                    && (selected.part().isEmpty() || selected.part().equals(one.part())));
        }
    }

    private void accept(Predicate<Equal> wanted) {
        List<Equal> taken = proposals.get().stream().filter(wanted).toList();
        if (taken.isEmpty()) {
            return;
        }
        List<Equal> left = new ArrayList<>(proposals.get());
        left.removeAll(taken);
        edit("Equal levels", order -> Equal.applied(order, taken));
        proposals.set(left);
    }

    public void drop() {
        proposals.set(List.of());
    }

    /** Takes songs in at the end. */
    public void add(List<Path> songs) {
        try {
            RunningOrder more = SongTitles.added(order(), place, songs);
            edit(songs.size() == 1 ? "Song added" : "Songs added", order -> more);
        } catch (SessionFileException e) {
            messages.tell(e.getMessage());
        }
    }

    void remove(SongId song) {
        edit("Song taken out", order -> order.withoutSong(song));
    }

    /** Moves a song up or down in the running order. */
    void move(SongId song, int by) {
        edit("Song moved", order -> {
            List<Song> songs = new ArrayList<>(order.songs());
            int from = songs.stream().map(Song::id).toList().indexOf(song);
            int to = Math.clamp(from + by, 0, songs.size() - 1);
            songs.add(to, songs.remove(from));
            return order.withSongs(songs);
        });
    }

    /**
     * Saves it.
     *
     * @throws SessionFileException if the disk refuses, or another program saved it since
     */
    public void save() throws SessionFileException {
        try (SessionLock _ = SessionLock.acquire(OrderFile.working(place.file()))) {
            if (OrderFile.changedSince(place.file(), saved)) {
                throw new SessionFileException(
                        place.file() + " was saved by another program since it was opened here.",
                        "Close it without saving to go on with that, or save it there again after undoing what you"
                                + " need not.");
            }
            OrderFile.save(order(), place.file());
            saved = OrderFile.load(place.file());
            unsaved.set(!order().equals(saved.order()));
        }
    }

    /** The row of a song. */
    Optional<SongRow> row(SongId song) {
        return levels().rows().stream()
                .filter(row -> row.song().id().equals(song))
                .findFirst();
    }

    /** What is proposed for a part of a song; null for nothing. */
    @Nullable
    Equal proposal(SongId song, String part) {
        return proposals.get().stream()
                .filter(one -> one.song().equals(song) && Objects.equals(one.part(), part))
                .findFirst()
                .orElse(null);
    }

    @Override
    public void close() {
        listening.close();
        watch.close();
    }
}
