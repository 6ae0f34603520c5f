package waterwheel.desktop.model;

import java.util.HashSet;
import java.util.List;
import java.util.Set;
import javafx.application.Platform;
import javafx.beans.property.ReadOnlyBooleanProperty;
import javafx.beans.property.ReadOnlyBooleanWrapper;
import javafx.beans.property.ReadOnlyObjectProperty;
import javafx.beans.property.ReadOnlyObjectWrapper;
import javafx.util.Subscription;
import org.jspecify.annotations.Nullable;
import waterwheel.core.edit.Edit;
import waterwheel.core.errors.AudioFileException;
import waterwheel.core.recording.Recorded;
import waterwheel.core.recording.Recorder;
import waterwheel.core.session.ChannelId;
import waterwheel.core.session.Session;
import waterwheel.core.session.Track;

/** Records the tracks that are marked for it; when the song stops each gets a clip, all in one step. */
public final class Recordings implements AutoCloseable {
    private final SessionModel model;
    private final ReadOnlyObjectWrapper<Set<ChannelId>> marked = new ReadOnlyObjectWrapper<>(Set.of());
    private final ReadOnlyBooleanWrapper recording = new ReadOnlyBooleanWrapper();
    private final Subscription playing;
    private @Nullable Recorder recorder;
    private @Nullable Thread finishing;

    Recordings(SessionModel model) {
        this.model = model;
        playing = model.transport()
                .playingProperty()
                .subscribe(now -> {
                    if (!now) {
                        finish();
                    }
                })
                .and(model.historyProperty().subscribe(history -> forget()));
    }

    /** The tracks that are recorded the next time. */
    public ReadOnlyObjectProperty<Set<ChannelId>> markedProperty() {
        return marked.getReadOnlyProperty();
    }

    public void mark(ChannelId track, boolean on) {
        Set<ChannelId> changed = new HashSet<>(marked.get());
        if (on ? changed.add(track) : changed.remove(track)) {
            marked.set(Set.copyOf(changed));
        }
    }

    /** A mark goes with its track. */
    private void forget() {
        Set<ChannelId> left = new HashSet<>(marked.get());
        left.retainAll(model.session().tracks().stream()
                .filter(track -> track.input().isPresent())
                .map(Track::id)
                .toList());
        if (!left.equals(marked.get())) {
            marked.set(Set.copyOf(left));
        }
    }

    public ReadOnlyBooleanProperty recordingProperty() {
        return recording.getReadOnlyProperty();
    }

    /** Begins where the song stands, or ends. */
    public void recordOrStop() {
        if (recorder != null) {
            model.transport().stop();
            return;
        }
        List<Track> tracks = tracks();
        if (tracks.isEmpty()) {
            model.tell("Nothing is marked to be recorded. In Outboard choose an input, make a track of it, and mark"
                    + " that.");
            return;
        }
        try {
            Recorder begun = new Recorder(model.folder(), model.session(), tracks);
            recorder = begun;
            model.transport().record(begun, begun.tracks());
            recording.set(true);
        } catch (AudioFileException e) {
            model.tell(e.getMessage());
        }
    }

    private List<Track> tracks() {
        return model.session().tracks().stream()
                .filter(track -> track.input().isPresent() && marked.get().contains(track.id()))
                .toList();
    }

    private void finish() {
        Recorder done = recorder;
        recorder = null;
        recording.set(false);
        if (done == null) {
            return;
        }
        model.transport().recordNothing();
        int late = model.transport().lateFrames(model.session());
        // The files are read once for their hashes, which takes a moment.
        finishing = Thread.ofVirtual().start(() -> {
            try {
                List<Recorded> all = done.finish(late);
                Platform.runLater(() -> keep(all));
            } catch (AudioFileException e) {
                Platform.runLater(() -> model.tell(e.getMessage()));
            }
        });
    }

    private void keep(List<Recorded> all) {
        if (all.isEmpty()) {
            return;
        }
        Session now = model.session();
        model.edit(new Edit(
                all.size() == 1 && now.find(all.getFirst().track()).isPresent()
                        ? "Recording of " + now.channel(all.getFirst().track()).name()
                        : all.size() + " recordings",
                session -> Recorded.into(session, all)));
        for (Recorded one : all) {
            if (!one.troubles().equals(".")) {
                model.tell(one.source().fileName() + one.troubles());
            }
        }
    }

    @Override
    public void close() {
        playing.unsubscribe();
        Recorder open = recorder;
        recorder = null;
        try {
            if (open != null) {
                open.close();
            }
            if (finishing != null) {
                finishing.join();
            }
        } catch (AudioFileException e) {
            model.tell(e.getMessage());
        } catch (InterruptedException e) {
            Thread.currentThread().interrupt();
        }
    }
}
