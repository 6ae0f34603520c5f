package waterwheel.desktop.model;

import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import javafx.beans.property.BooleanProperty;
import javafx.beans.property.ReadOnlyObjectProperty;
import javafx.beans.property.ReadOnlyObjectWrapper;
import javafx.beans.property.SimpleBooleanProperty;
import org.jspecify.annotations.Nullable;
import waterwheel.core.controllers.ControllerMove;
import waterwheel.core.controllers.ControllerPart;
import waterwheel.core.edit.FreezeLock;
import waterwheel.core.edit.NoteEdits;
import waterwheel.core.instruments.LiveKeys;
import waterwheel.core.notes.Note;
import waterwheel.core.notes.NoteChange;
import waterwheel.core.notes.NoteTake;
import waterwheel.core.notes.Notes;
import waterwheel.core.session.Channel;
import waterwheel.core.session.ChannelId;

/** A keyboard plays a track's instrument; what it plays while the song runs may be recorded to notes. */
public final class Keys {
    private static final int SUSTAIN = 64;

    private final SessionModel model;
    private final ReadOnlyObjectWrapper<@Nullable ChannelId> track = new ReadOnlyObjectWrapper<>();
    private final BooleanProperty recording = new SimpleBooleanProperty();
    private volatile @Nullable NoteTake take;
    /** Read by the keyboard's thread. */
    private volatile boolean on;

    Keys(SessionModel model) {
        this.model = model;
        recording.subscribe(this::record);
        model.keep(model.transport().playingProperty().subscribe(playing -> {
            if (!playing) {
                recording.set(false);
            }
        }));
    }

    /** The track whose instrument a keyboard plays; null for none. */
    public ReadOnlyObjectProperty<@Nullable ChannelId> trackProperty() {
        return track.getReadOnlyProperty();
    }

    /** Whether what is played becomes notes, while the song runs; they are there when it ends. */
    public BooleanProperty recordingProperty() {
        return recording;
    }

    /** Has a keyboard play a track's instrument, or none. */
    public void play(@Nullable ChannelId id) {
        recording.set(false);
        track.set(id);
        on = id != null;
        model.transport().playByHand(id);
        if (id != null) {
            model.controllers().look();
            model.session().find(id).ifPresent(this::tellOfFreeze);
        }
    }

    private void tellOfFreeze(Channel channel) {
        if (channel.strip().freeze().isPresent()) {
            model.offer(
                    channel.name() + " is frozen: it sounds as it was rendered, and its keys are silent.",
                    new Messages.Choice(
                            "Unfreeze",
                            "Compute the channel again, so that its keys are heard",
                            () -> model.edit(FreezeLock.unfreeze(channel))),
                    Messages.Choice.leave());
        }
    }

    /** Hears a keyboard, on its own thread. Returns whether what it did is a note or its pedal, and played. */
    boolean hear(ControllerMove move) {
        if (!on) {
            return false;
        }
        Optional<LiveKeys> keys = model.transport().keys();
        long frame = model.transport().heardFrame();
        NoteTake taken = take;
        ControllerPart part = move.part();
        switch (part.kind()) {
            case NOTE -> {
                int key = part.number();
                if (move.place() > 0) {
                    keys.ifPresent(live -> live.press(key, Math.max(1, move.velocity())));
                    if (taken != null) {
                        taken.press(frame, key, Math.max(1, move.velocity()));
                    }
                } else {
                    keys.ifPresent(live -> live.letGo(key));
                    if (taken != null) {
                        taken.letGo(frame, key);
                    }
                }
                return true;
            }
            case BEND -> {
                keys.ifPresent(live -> live.bend(2 * move.place() - 1));
                if (taken != null) {
                    taken.change(frame, NoteChange.Kind.BEND, 2 * move.place() - 1);
                }
                return true;
            }
            case CONTROL -> {
                if (part.number() != SUSTAIN) {
                    return false;
                }
                keys.ifPresent(live -> live.pedal(move.place() >= 0.5));
                if (taken != null) {
                    taken.change(frame, NoteChange.Kind.SUSTAIN, move.place());
                }
                return true;
            }
        }
        return false;
    }

    private void record(boolean begin) {
        NoteTake ended = take;
        if (begin) {
            take = new NoteTake();
            return;
        }
        take = null;
        ChannelId id = track.get();
        if (ended == null || id == null) {
            return;
        }
        List<Note> played = ended.notes(model.transport().heardFrame());
        if (!played.isEmpty()) {
            String name = model.session().find(id).map(Channel::name).orElse("");
            List<NoteChange> changed = ended.changes();
            model.edit(NoteEdits.notes("Recording of notes of " + name, id, notes -> with(notes, played, changed)));
        }
    }

    private static Notes with(Notes notes, List<Note> played, List<NoteChange> changed) {
        List<Note> all = new ArrayList<>(notes.notes());
        all.addAll(played);
        List<NoteChange> changes = new ArrayList<>(notes.changes());
        changes.addAll(changed);
        return new Notes(all, changes, notes.tempo());
    }
}
