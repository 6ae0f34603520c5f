package waterwheel.desktop.order;

import java.util.ArrayDeque;
import java.util.Deque;
import java.util.Iterator;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.concurrent.CancellationException;
import javafx.application.Platform;
import javafx.beans.property.ReadOnlyBooleanProperty;
import javafx.beans.property.ReadOnlyBooleanWrapper;
import javafx.beans.property.ReadOnlyDoubleProperty;
import javafx.beans.property.ReadOnlyDoubleWrapper;
import javafx.beans.property.ReadOnlyObjectProperty;
import javafx.beans.property.ReadOnlyObjectWrapper;
import org.jspecify.annotations.Nullable;
import waterwheel.core.engine.Media;
import waterwheel.core.errors.WaterwheelException;
import waterwheel.core.order.RunningOrder;
import waterwheel.core.order.Song;
import waterwheel.core.order.SongId;
import waterwheel.core.playback.Player;
import waterwheel.core.session.Section;
import waterwheel.core.session.Session;
import waterwheel.core.songs.HeardSong;
import waterwheel.core.work.Progress;
import waterwheel.desktop.model.Frames;
import waterwheel.desktop.model.Messages;
import waterwheel.desktop.model.Players;

/**
 * Listening to the songs of a running order, one after the other. Songs are opened in the background, the next one before
 * the one that plays has ended. Belongs to the interface thread.
 */
public final class OrderListening implements AutoCloseable {
    /** How many songs' files stay open: what plays, what it crossed over from, what comes next. */
    private static final int OPEN = 4;
    /** Polls in which what is stopped fades away. */
    private static final int FADING = 2;

    private final OrderModel model;
    private final Messages messages;
    private final ReadOnlyObjectWrapper<@Nullable HeardSong> heard = new ReadOnlyObjectWrapper<>();
    private final ReadOnlyBooleanWrapper playing = new ReadOnlyBooleanWrapper();
    private final ReadOnlyDoubleWrapper seconds = new ReadOnlyDoubleWrapper();
    private final ReadOnlyObjectWrapper<HeardSong.Levels> levels =
            new ReadOnlyObjectWrapper<>(HeardSong.Levels.DELIVERED);
    private final ReadOnlyBooleanWrapper cues = new ReadOnlyBooleanWrapper();
    private final ReadOnlyObjectWrapper<Map<String, Double>> fadersDb = new ReadOnlyObjectWrapper<>(Map.of());
    private final Deque<Opened> opened = new ArrayDeque<>();
    private @Nullable Player player;
    private @Nullable Opened present;
    private @Nullable Opened following;
    private @Nullable SongId opening;
    /** What could not be opened as the next one, so that it is tried again only after a change. */
    private @Nullable SongId refused;

    /** Where a song that is being changed to begins, in frames; negative while none is. */
    private long beginning = -1;

    /** Whether the player was told of it. */
    private boolean asked;

    private int fading;
    /** Whether it was playing until now, so that a song that stands at its end does not begin the next one. */
    private boolean playedOut;

    /** Whether the song's end is no reason to go on. */
    private boolean staying;

    private volatile boolean closed;
    private final Frames frames = new Frames(now -> poll());

    /**
     * A song with its files open.
     *
     * @param under the running order that it was opened under
     */
    private record Opened(HeardSong song, Media media, RunningOrder under) {
        /** Whether it is a song as it would be opened now: what corrects it is applied when it plays. */
        boolean is(Song now, RunningOrder order) {
            return song.song().id().equals(now.id())
                    && song.song().path().equals(now.path())
                    && under.names().equals(order.names())
                    && under.parts().equals(order.parts());
        }
    }

    OrderListening(OrderModel model, Messages messages) {
        this.model = model;
        this.messages = messages;
    }

    /** The song that plays, or would. */
    public ReadOnlyObjectProperty<@Nullable HeardSong> heardProperty() {
        return heard.getReadOnlyProperty();
    }

    public ReadOnlyBooleanProperty playingProperty() {
        return playing.getReadOnlyProperty();
    }

    /** The place in the song. */
    public ReadOnlyDoubleProperty secondsProperty() {
        return seconds.getReadOnlyProperty();
    }

    ReadOnlyObjectProperty<HeardSong.Levels> levelsProperty() {
        return levels.getReadOnlyProperty();
    }

    ReadOnlyBooleanProperty cuesProperty() {
        return cues.getReadOnlyProperty();
    }

    /** What was moved by hand while listening, by part. */
    ReadOnlyObjectProperty<Map<String, Double>> fadersProperty() {
        return fadersDb.getReadOnlyProperty();
    }

    /** Plays the selected song from its beginning, or from the section that is shown; or stops. */
    public void playOrStop() {
        if (player != null && player.playing()) {
            player.stop();
            return;
        }
        Optional<Song> song = model.selectedSong();
        if (player != null
                && present != null
                && song.filter(one -> one.id().equals(presentId())).isPresent()) {
            // From the beginning where it stands at the end.
            if (player.position() >= present.song().session().lengthFrames()) {
                player.seek(0);
            }
            player.start();
            return;
        }
        song.ifPresent(one -> play(one.id()));
    }

    private @Nullable SongId presentId() {
        return present == null ? null : present.song().song().id();
    }

    /** Plays a song, at the section that is shown where it has that. */
    public void play(SongId id) {
        open(
                id,
                song -> begin(
                        song,
                        start(song.song().session(), model.sectionProperty().get())));
    }

    private static long start(Session session, String section) {
        return session.sections().stream()
                .filter(one -> one.name().equals(section))
                .findFirst()
                .map(Section::startFrames)
                .orElse(0L);
    }

    /** Goes to the song behind the one that plays, or before it. */
    public void step(int by) {
        List<SongId> songs = model.order().songs().stream().map(Song::id).toList();
        int at = songs.indexOf(presentId());
        int to = at + by;
        if (at >= 0 && to >= 0 && to < songs.size()) {
            model.select(songs.get(to), "");
            play(songs.get(to));
        }
    }

    /** Stays with the song at its end, or goes on with the next one. */
    void stay(boolean value) {
        staying = value;
    }

    void jump(double place) {
        if (player != null && present != null) {
            player.seek(Math.round(place * present.song().session().sampleRateHz()));
            seconds.set(Math.max(0, place));
        }
    }

    void hear(HeardSong.Levels which) {
        levels.set(which);
        apply();
    }

    void hearCues(boolean on) {
        cues.set(on);
        apply();
    }

    void moveFader(String part, double db) {
        Map<String, Double> moved = new LinkedHashMap<>(fadersDb.get());
        moved.put(part, db);
        fadersDb.set(Map.copyOf(moved));
        apply();
    }

    void resetFaders() {
        fadersDb.set(Map.of());
        apply();
    }

    /** Makes what was moved by hand part of the song's corrections, as one step. */
    void keepFaders() {
        SongId id = presentId();
        if (id == null) {
            return;
        }
        Map<String, Double> moved = fadersDb.get();
        model.edit(
                "What was moved while listening",
                order -> order.withSong(id, song -> {
                    Song kept = song;
                    for (Map.Entry<String, Double> one : moved.entrySet()) {
                        if (Double.isFinite(one.getValue())) {
                            kept = kept.with(
                                    one.getKey(),
                                    kept.correction(one.getKey())
                                            .withGainDb(kept.correction(one.getKey())
                                                            .gainDb()
                                                    + one.getValue()));
                        }
                    }
                    return kept;
                }));
        resetFaders();
    }

    /** Plays the song as the running order corrects it now. */
    void follow() {
        apply();
        refused = null;
    }

    private void apply() {
        if (player != null && present != null && beginning < 0) {
            player.use(played(present), present.media());
        }
    }

    private Session played(Opened one) {
        Song song = model.order().find(one.song().song().id()).orElse(one.song().song());
        return one.song().played(song, levels.get(), cues.get(), fadersDb.get());
    }

    /** What is done with a song that is open. */
    private interface Done {
        void with(Opened song);
    }

    /** Opens a song in the background, since its parts may have to be rendered. */
    private void open(SongId id, Done done) {
        RunningOrder order = model.order();
        Optional<Song> song = order.find(id);
        if (song.isEmpty() || id.equals(opening)) {
            return;
        }
        // Between two songs one goes to and fro at once; else what lies on the disk now is opened.
        Optional<Opened> known = staying
                ? opened.stream().filter(one -> one.is(song.get(), order)).findFirst()
                : Optional.empty();
        if (known.isPresent()) {
            opening = null;
            done.with(known.get());
            return;
        }
        opening = id;
        Thread.ofPlatform().daemon().name("waterwheel-listening").start(() -> {
            try {
                HeardSong made = HeardSong.of(song.get(), order, model.place(), new UntilClosed());
                Media media = Media.open(made.session(), made.folder());
                Platform.runLater(() -> ready(id, new Opened(made, media, order), done));
            } catch (CancellationException e) {
                // The running order was closed.
            } catch (WaterwheelException | RuntimeException e) {
                Platform.runLater(() -> {
                    opening = null;
                    refused = id;
                    messages.tell(String.valueOf(e.getMessage()));
                });
            }
        });
    }

    private void ready(SongId id, Opened song, Done done) {
        if (closed || !id.equals(opening)) {
            song.media().close();
            return;
        }
        opening = null;
        keep(song);
        done.with(song);
    }

    /** Files of songs long past are closed, whatever was opened since the one that plays. */
    private void keep(Opened song) {
        opened.addLast(song);
        for (Iterator<Opened> eldest = opened.iterator(); opened.size() > OPEN && eldest.hasNext(); ) {
            Opened one = eldest.next();
            if (!one.equals(present) && !one.equals(following)) {
                one.media().close();
                eldest.remove();
            }
        }
    }

    private void begin(Opened song, long frame) {
        if (player != null
                && present != null
                && present.song().session().sampleRateHz()
                        != song.song().session().sampleRateHz()) {
            player.close();
            player = null;
        }
        present = song;
        following = null;
        fadersDb.set(Map.of());
        heard.set(song.song());
        beginning = frame;
        asked = false;
        if (player == null) {
            player = Players.open(played(song), song.media(), messages);
            fading = 0;
        } else {
            fading = player.playing() ? FADING : 0;
            player.stop();
        }
        frames.moving();
    }

    private void poll() {
        Player now = player;
        Opened song = present;
        if (now == null || song == null) {
            return;
        }
        if (beginning >= 0 || now.playing()) {
            frames.moving();
        }
        if (beginning >= 0) {
            change(now, song);
            return;
        }
        long position = now.position();
        playing.set(now.playing());
        seconds.set((double) position / song.song().session().sampleRateHz());
        goOn(now, song, position);
    }

    /** What stops fades first; then the other song is taken, and only when it is there does it begin. */
    private void change(Player now, Opened song) {
        if (fading > 0) {
            fading--;
            if (fading > 0) {
                return;
            }
        }
        if (!now.plays(song.media())) {
            if (!asked) {
                asked = true;
                now.use(played(song), song.media());
            }
            return;
        }
        now.seek(beginning);
        now.start();
        beginning = -1;
        playing.set(true);
    }

    /** Has the next song ready before this one ends, and begins it then. */
    private void goOn(Player now, Opened song, long position) {
        long length = song.song().session().lengthFrames();
        List<Song> songs = model.order().songs();
        int at =
                songs.stream().map(Song::id).toList().indexOf(song.song().song().id());
        boolean last = staying || at < 0 || at + 1 >= songs.size();
        if (last) {
            return;
        }
        Song next = songs.get(at + 1);
        Opened ready = following;
        boolean wanting = ready == null || !ready.is(next, model.order());
        if (now.playing() && wanting && opening == null && !next.id().equals(refused)) {
            open(next.id(), one -> following = one);
        }
        if (!now.playing() && position >= length && ready != null && playedOut) {
            playedOut = false;
            model.select(next.id(), "");
            begin(ready, 0);
        } else {
            playedOut = now.playing() || (playedOut && position >= length);
        }
    }

    @Override
    public void close() {
        closed = true;
        frames.close();
        if (player != null) {
            player.close();
        }
        opened.forEach(one -> one.media().close());
        opened.clear();
    }

    private final class UntilClosed implements Progress {
        @Override
        public void at(double part) {}

        @Override
        public boolean stopped() {
            return closed;
        }
    }
}
