package waterwheel.desktop.model;

import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Objects;
import java.util.Optional;
import java.util.Set;
import java.util.concurrent.CompletableFuture;
import java.util.concurrent.atomic.AtomicReference;
import java.util.function.BiFunction;
import java.util.stream.Collectors;
import javafx.application.Platform;
import javafx.beans.property.ObjectProperty;
import javafx.beans.property.ReadOnlyBooleanProperty;
import javafx.beans.property.ReadOnlyBooleanWrapper;
import javafx.beans.property.ReadOnlyIntegerProperty;
import javafx.beans.property.ReadOnlyIntegerWrapper;
import javafx.beans.property.ReadOnlyObjectProperty;
import javafx.beans.property.ReadOnlyObjectWrapper;
import javafx.beans.property.SimpleObjectProperty;
import javafx.util.Subscription;
import org.jspecify.annotations.Nullable;
import waterwheel.core.edit.Edit;
import waterwheel.core.edit.FreezeLock;
import waterwheel.core.edit.History;
import waterwheel.core.edit.MixedAlike;
import waterwheel.core.engine.Plan;
import waterwheel.core.engine.PlanCompiler;
import waterwheel.core.errors.SessionFileException;
import waterwheel.core.findings.Finding;
import waterwheel.core.findings.Findings;
import waterwheel.core.levels.LevelWatch;
import waterwheel.core.levels.SectionLevels;
import waterwheel.core.levels.SessionLevels;
import waterwheel.core.levels.SongMeasure;
import waterwheel.core.session.Channel;
import waterwheel.core.session.ChannelId;
import waterwheel.core.session.Section;
import waterwheel.core.session.Session;
import waterwheel.core.session.Track;
import waterwheel.core.store.SessionFolder;
import waterwheel.core.store.SessionLock;
import waterwheel.core.work.Progress;

/**
 * One open session: its history, its levels as far as they are known, its findings, what is selected, and its
 * transport. Every change goes through {@link #edit}.
 */
public final class SessionModel implements AutoCloseable {
    private final ObjectProperty<@Nullable MixedAlike> preview = new SimpleObjectProperty<>();
    private final ReadOnlyObjectWrapper<History<Session>> history;
    private final ReadOnlyObjectWrapper<SessionLevels> levels;
    private final ReadOnlyObjectWrapper<List<Finding>> findings = new ReadOnlyObjectWrapper<>(List.of());
    private final ReadOnlyObjectWrapper<ChannelId> selected;
    private final ReadOnlyObjectWrapper<Set<ChannelId>> selection = new ReadOnlyObjectWrapper<>(Set.of());
    private final ReadOnlyObjectWrapper<@Nullable Section> section = new ReadOnlyObjectWrapper<>();
    private final ReadOnlyBooleanWrapper unsaved = new ReadOnlyBooleanWrapper();
    private final AtomicReference<@Nullable SessionLevels> arrived = new AtomicReference<>();
    private final Messages messages;
    private final Transport transport;
    private final List<Subscription> subscriptions = new ArrayList<>();
    private final RideTakes rideTakes;
    private final ReadOnlyIntegerWrapper refusals = new ReadOnlyIntegerWrapper();
    private final ReadOnlyIntegerWrapper naming = new ReadOnlyIntegerWrapper();
    private final Recordings recordings;
    private final Hand hand;
    private final Controllers controllers;
    private final Keys keys;
    private final Questions questions;
    private Path folder;
    private LevelWatch watch;
    private Session saved;
    /** What the session's file held when it was last read or written here. */
    private SessionFolder.Loaded read;

    /**
     * Opens a session in memory. Its levels are pending until {@link #measure} is called.
     *
     * @param loaded the session as it was read
     * @param folder its folder
     * @param messages takes what the user should be told
     */
    public SessionModel(SessionFolder.Loaded loaded, Path folder, Messages messages) {
        Session session = loaded.session();
        this.read = loaded;
        this.folder = folder;
        this.messages = messages;
        this.saved = session;
        history = new ReadOnlyObjectWrapper<>(History.of(session));
        levels = new ReadOnlyObjectWrapper<>(SessionLevels.pending(session));
        selected = new ReadOnlyObjectWrapper<>(
                session.channels().isEmpty()
                        ? session.mainId()
                        : session.channels().getFirst().id());
        selection.set(Set.of(selected.get()));
        transport = new Transport(session, folder, messages);
        rideTakes = new RideTakes(this);
        recordings = new Recordings(this);
        hand = new Hand(this);
        controllers = new Controllers(this);
        keys = new Keys(this);
        watch = watched();
        questions = new Questions(this::session, this::ask, reason -> Platform.runLater(() -> tell(reason)));
    }

    private <T> CompletableFuture<T> ask(Session about, BiFunction<SongMeasure, Progress, T> question) {
        return watch.ask(about, question);
    }

    private LevelWatch watched() {
        return new LevelWatch(
                folder,
                this::take,
                e -> Platform.runLater(() -> messages.tell(
                        "The levels could not be measured: " + e.getMessage() + ". Free some space on the disk.")));
    }

    /** Begins to keep the levels true. */
    public void measure() {
        watch.submit(session(), section.get());
    }

    /** Called by the watch's thread: hands the newest levels over, skipping those that were overtaken on the way. */
    private void take(SessionLevels newest) {
        if (arrived.getAndSet(newest) == null) {
            Platform.runLater(() -> {
                SessionLevels taken = arrived.getAndSet(null);
                // Levels of an earlier session would be shown as if they were true.
                if (taken != null && taken.session().equals(session()) && coversSection(taken)) {
                    levels.set(taken);
                    findings.set(Findings.of(taken));
                }
            });
        }
    }

    private boolean coversSection(SessionLevels taken) {
        SectionLevels within = taken.section();
        return Objects.equals(section.get(), within == null ? null : within.section());
    }

    /** The section of the song that figures are shown of; null for the whole song. */
    public ReadOnlyObjectProperty<@Nullable Section> sectionProperty() {
        return section.getReadOnlyProperty();
    }

    /** Shows the figures of one section, or of the whole song. */
    public void chooseSection(@Nullable Section chosen) {
        if (Objects.equals(section.get(), chosen)) {
            return;
        }
        section.set(chosen);
        levels.set(levels().within(chosen));
        watch.submit(session(), chosen);
    }

    /** The chosen section as it is in another state of the session: itself, or what became of it. */
    private @Nullable Section followed(Session next) {
        Section chosen = section.get();
        if (chosen == null || next.sections().contains(chosen)) {
            return chosen;
        }
        int place = session().sections().indexOf(chosen);
        boolean changed = next.sections().size() == session().sections().size();
        return changed ? next.sections().get(place) : null;
    }

    /** What is looked at before it is taken; null for the session as it is. */
    public ObjectProperty<@Nullable MixedAlike> previewProperty() {
        return preview;
    }

    public ReadOnlyObjectProperty<History<Session>> historyProperty() {
        return history.getReadOnlyProperty();
    }

    /** The levels of the session as it is now; channels that are absent are pending. */
    public ReadOnlyObjectProperty<SessionLevels> levelsProperty() {
        return levels.getReadOnlyProperty();
    }

    public ReadOnlyObjectProperty<List<Finding>> findingsProperty() {
        return findings.getReadOnlyProperty();
    }

    public ReadOnlyObjectProperty<ChannelId> selectedProperty() {
        return selected.getReadOnlyProperty();
    }

    public ReadOnlyBooleanProperty unsavedProperty() {
        return unsaved.getReadOnlyProperty();
    }

    public Session session() {
        return history.get().present();
    }

    public SessionLevels levels() {
        return levels.get();
    }

    public Channel selectedChannel() {
        return session().find(selected.get()).orElseGet(() -> session().main());
    }

    public Transport transport() {
        return transport;
    }

    /** The song's frame at which the transport stands. */
    public long playhead() {
        return Math.round(transport.secondsProperty().get() * session().sampleRateHz());
    }

    /** What comes in and is recorded. */
    public Recordings recordings() {
        return recordings;
    }

    /** Records what hands do to controls while the song plays. */
    public RideTakes rideTakes() {
        return rideTakes;
    }

    /** What a keyboard plays. */
    public Keys keys() {
        return keys;
    }

    /** What can be asked about the song's levels. */
    public Questions questions() {
        return questions;
    }

    /** Controllers with faders, knobs and buttons. */
    public Controllers controllers() {
        return controllers;
    }

    /** What moves controls, wherever they are. */
    public Hand hand() {
        return hand;
    }

    public Path folder() {
        return folder;
    }

    /** All selected channels: the one that the Path shows, and those that move with it. */
    public ReadOnlyObjectProperty<Set<ChannelId>> selectionProperty() {
        return selection.getReadOnlyProperty();
    }

    /** The selected channels in session order. */
    public List<Channel> selection() {
        return session().channels().stream()
                .filter(c -> selection.get().contains(c.id()))
                .toList();
    }

    /** Selects one channel alone. */
    public void select(ChannelId id) {
        selection.set(Set.of(id));
        selected.set(id);
    }

    /** Adds a channel to the selection, or takes it out again; one always stays. */
    public void toggleSelected(ChannelId id) {
        Set<ChannelId> now = new LinkedHashSet<>(selection.get());
        if (!now.remove(id)) {
            now.add(id);
            selection.set(Set.copyOf(now));
            selected.set(id);
        } else if (!now.isEmpty()) {
            selection.set(Set.copyOf(now));
            if (id.equals(selected.get())) {
                selected.set(selection().getFirst().id());
            }
        }
    }

    /** Selects everything from the selected channel to another, in session order; the Path stays where it is. */
    public void selectTo(ChannelId id) {
        List<ChannelId> ids = session().channels().stream().map(Channel::id).toList();
        int from = ids.indexOf(selected.get());
        int to = ids.indexOf(id);
        selection.set(Set.copyOf(ids.subList(Math.min(from, to), Math.max(from, to) + 1)));
    }

    /** Selects all tracks; the Path stays where it is. */
    public void selectAllTracks() {
        selection.set(session().tracks().stream().map(Channel::id).collect(Collectors.toUnmodifiableSet()));
    }

    /** Selects the channel above or below. */
    public void selectNeighbour(int steps) {
        List<ChannelId> ids = session().channels().stream().map(Channel::id).toList();
        int at = ids.indexOf(selected.get());
        select(ids.get(Math.clamp((long) at + steps, 0, ids.size() - 1)));
    }

    /** Does an edit as an undo step of its own. */
    public void edit(Edit edit) {
        edit(edit, "");
    }

    /** Does an edit that makes a channel, and has that selected and ready to be named. */
    public void make(Edit edit) {
        Session before = session();
        edit(edit);
        session().channels().stream()
                .filter(channel -> before.find(channel.id()).isEmpty())
                .findFirst()
                .ifPresent(made -> {
                    select(made.id());
                    nameSelected();
                });
    }

    /** Asks for the selected channel's name. */
    public void nameSelected() {
        naming.set(naming.get() + 1);
    }

    /** How often somebody asked for the selected channel to be named. */
    public ReadOnlyIntegerProperty namingProperty() {
        return naming.getReadOnlyProperty();
    }

    /** Does an edit as part of a gesture, which undoes as one step. */
    public void edit(Edit edit, String gesture) {
        History<Session> next = history.get().with(edit.name(), edit.apply(session()), gesture);
        Optional<FreezeLock.Broken> broken = FreezeLock.broken(session(), next.present());
        if (broken.isEmpty()) {
            become(next);
            return;
        }
        refusals.set(refusals.get() + 1);
        Edit unfreeze = FreezeLock.unfreeze(session().channel(broken.get().channel()));
        offer(
                broken.get().sentence(),
                new Messages.Choice(
                        "Unfreeze and change it",
                        "Compute the channel again, and do this",
                        () -> edit(Edit.together(edit.name(), List.of(unfreeze, edit)))),
                Messages.Choice.leave());
    }

    /** Counts the edits that were refused: what shows the session shows it as it was. */
    public ReadOnlyIntegerProperty refusalsProperty() {
        return refusals.getReadOnlyProperty();
    }

    /** Tells the user something that can be answered. */
    public void offer(String sentence, Messages.Choice... choices) {
        messages.offer(sentence, choices);
    }

    /** Tells the user something. */
    public void tell(String sentence) {
        messages.tell(sentence);
    }

    public void undo() {
        become(history.get().undone());
    }

    public void redo() {
        become(history.get().redone());
    }

    private void become(History<Session> next) {
        boolean changed = !next.present().equals(session());
        Section followed = followed(next.present());
        String reason = reason(next);
        history.set(next);
        unsaved.set(!next.present().equals(saved));
        if (changed) {
            // What was found of a channel that is gone would be shown for a moment as if it were still there.
            findings.set(findings.get().stream()
                    .filter(f -> next.present().find(f.channel()).isPresent())
                    .toList());
            section.set(followed);
            levels.set(SessionLevels.pending(next.present()).within(followed));
            watch.submit(next.present(), followed);
            transport.use(next.present(), reason);
        }
    }

    /** What changes from the present history to another, as the undo menu says it. */
    private String reason(History<Session> next) {
        boolean undoing = next.past().size() < history.get().past().size();
        return (undoing ? next.redoName() : next.undoName()).orElse("a change");
    }

    /**
     * Saves to the session's folder.
     *
     * @throws SessionFileException if the disk refuses, or another program changed the session since it was read
     */
    public void save() throws SessionFileException {
        try (SessionLock lock = SessionLock.acquire(folder)) {
            read = lock.save(session(), read);
        }
        saved = session();
        unsaved.set(false);
    }

    /** Whether another program saved the session since it was read here. */
    public boolean changedOutside() {
        try {
            return SessionFolder.changedSince(folder, read);
        } catch (SessionFileException e) {
            return false;
        }
    }

    /** Asks what is to become of what another program saved. */
    public void offerOutside() {
        offer(
                "Another program changed this session's file while it was open here.",
                new Messages.Choice(
                        "Take it",
                        "Go on with what the other program saved; undo goes back",
                        () -> or(this::takeOutside)),
                new Messages.Choice(
                        "Keep mine",
                        "Go on with the session as it is here; saving replaces the other, which"
                                + " stays among the earlier saves",
                        () -> or(this::keepOwn)),
                new Messages.Choice(
                        "Save beside",
                        "Save the session as it is here to a new folder beside",
                        () -> or(this::saveBeside)));
    }

    /** Work that may be refused. */
    private interface Refusable {
        void run() throws SessionFileException;
    }

    private void or(Refusable work) {
        try {
            work.run();
        } catch (SessionFileException e) {
            tell(e.getMessage());
        }
    }

    private void takeOutside() throws SessionFileException {
        read = SessionFolder.load(folder);
        saved = read.session();
        become(history.get().with("The session as it was saved elsewhere", saved, ""));
        unsaved.set(!session().equals(saved));
    }

    private void keepOwn() throws SessionFileException {
        read = SessionFolder.load(folder);
        unsaved.set(true);
    }

    private void saveBeside() throws SessionFileException {
        Path name = folder.toAbsolutePath().getFileName();
        Path beside = folder.resolveSibling(name + " 2");
        for (int i = 3; Files.exists(beside); i++) {
            beside = folder.resolveSibling(name + " " + i);
        }
        saveAs(beside);
        tell("Saved as " + beside + ", which is open now. The other program's session is where it was.");
    }

    /**
     * Saves to another folder, which is the session's from then on.
     *
     * @throws SessionFileException if it holds a session already, or the disk refuses
     */
    public void saveAs(Path target) throws SessionFileException {
        SessionFolder.saveAs(session(), folder, target);
        read = SessionFolder.load(target);
        folder = target;
        saved = session();
        unsaved.set(false);
        watch.close();
        watch = watched();
        measure();
    }

    /** The selected channels that a change of one channel is meant for: all where it is one of several. */
    public List<Channel> meant(Channel channel) {
        List<Channel> selected = selection();
        return selected.size() > 1 && selected.contains(channel) ? selected : List.of(channel);
    }

    /** The tracks among them. */
    public List<Track> meantTracks(Channel channel) {
        return meant(channel).stream()
                .filter(Track.class::isInstance)
                .map(Track.class::cast)
                .toList();
    }

    /** By how many frames the processors of the session hold the mix up. */
    public int latencyFrames() {
        Plan plan = PlanCompiler.compile(session());
        return plan.latencies().get(plan.output());
    }

    /** Keeps what listens to this session; it ends when the session is closed. */
    public void keep(Subscription subscription) {
        subscriptions.add(subscription);
    }

    @Override
    public void close() {
        subscriptions.forEach(Subscription::unsubscribe);
        subscriptions.clear();
        controllers.close();
        recordings.close();
        rideTakes.close();
        watch.close();
        transport.close();
    }
}
