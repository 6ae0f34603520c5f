package waterwheel.core.notes;

import java.io.ByteArrayInputStream;
import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayDeque;
import java.util.ArrayList;
import java.util.Comparator;
import java.util.Deque;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.TreeSet;
import javax.sound.midi.InvalidMidiDataException;
import javax.sound.midi.MetaMessage;
import javax.sound.midi.MidiEvent;
import javax.sound.midi.MidiSystem;
import javax.sound.midi.Sequence;
import javax.sound.midi.ShortMessage;
import javax.sound.midi.Track;
import waterwheel.core.errors.NotesFileException;
import waterwheel.core.units.SongLength;

/**
 * Reads notes from a Standard MIDI File (Standard MIDI Files 1.0, formats 0 and 1): notes with their velocities, pitch
 * bend, sustain, volume and pan, and the map of tempi. Ticks become frames by exact sums of whole tempo stretches, rounded
 * once.
 */
public final class MidiNotes {
    private static final int LARGEST = 16 << 20;
    private static final int TEMPO = 0x51;
    private static final double USUAL_MICROSECONDS = 500_000;
    private static final int VOLUME = 7;
    private static final int PAN = 10;
    private static final int SUSTAIN = 64;
    private static final double MOST = 127;
    private static final int BEND_CENTRE = 8_192;

    private final Path file;
    private final int sampleRateHz;
    private final Sequence sequence;
    private final List<MidiEvent> events = new ArrayList<>();
    private final Tempo tempo;
    /** Of each tempo its first tick. */
    private final List<Long> ticks = new ArrayList<>();

    private MidiNotes(Path file, Sequence sequence, int sampleRateHz) throws NotesFileException {
        this.file = file;
        this.sequence = sequence;
        this.sampleRateHz = sampleRateHz;
        for (Track track : sequence.getTracks()) {
            for (int i = 0; i < track.size(); i++) {
                events.add(track.get(i));
            }
        }
        events.sort(Comparator.comparingLong(MidiEvent::getTick));
        tempo = tempo();
    }

    /**
     * Reads a file.
     *
     * @throws NotesFileException if it cannot be read or is none
     */
    public static MidiNotes read(Path file, int sampleRateHz) throws NotesFileException {
        try {
            if (Files.size(file) > LARGEST) {
                throw new NotesFileException(file, "is larger than any song's notes.", "Choose another file.", null);
            }
            Sequence sequence = MidiSystem.getSequence(new ByteArrayInputStream(Files.readAllBytes(file)));
            return new MidiNotes(file, sequence, sampleRateHz);
        } catch (InvalidMidiDataException | RuntimeException e) {
            // The platform's reader stumbles over some broken files by exceptions of every kind.
            throw new NotesFileException(
                    file, "is no file of notes, or is damaged.", "Choose a Standard MIDI File.", e);
        } catch (IOException e) {
            throw new NotesFileException(file, "cannot be read.", "Check that it is there and may be read.", e);
        }
    }

    /** The channels on which there are notes, from 1. */
    public List<Integer> channels() {
        TreeSet<Integer> found = new TreeSet<>();
        for (MidiEvent event : events) {
            if (event.getMessage() instanceof ShortMessage brief && brief.getCommand() == ShortMessage.NOTE_ON) {
                found.add(brief.getChannel() + 1);
            }
        }
        return List.copyOf(found);
    }

    /** The notes of all channels. */
    public Notes notes() throws NotesFileException {
        return notes(0);
    }

    /**
     * The notes of one channel.
     *
     * @param channel from 1; 0 for all
     * @throws NotesFileException if there are more than a performance has, or they last too long
     */
    public Notes notes(int channel) throws NotesFileException {
        List<Note> notes = new ArrayList<>();
        List<NoteChange> changes = new ArrayList<>();
        Map<Integer, Deque<long[]>> held = new HashMap<>();
        long last = 0;
        for (MidiEvent event : events) {
            if (!(event.getMessage() instanceof ShortMessage brief)
                    || (channel > 0 && brief.getChannel() + 1 != channel)) {
                continue;
            }
            long frame = frame(event.getTick());
            last = Math.max(last, frame);
            // In a damaged file they may have more than seven bits.
            int one = brief.getData1() & 0x7F;
            int two = brief.getData2() & 0x7F;
            int key = brief.getChannel() * Note.KEYS + one;
            switch (brief.getCommand()) {
                case ShortMessage.NOTE_ON -> {
                    if (two > 0) {
                        held.computeIfAbsent(key, any -> new ArrayDeque<>()).add(new long[] {frame, two});
                    } else {
                        end(held, key, one, frame, notes);
                    }
                }
                case ShortMessage.NOTE_OFF -> end(held, key, one, frame, notes);
                case ShortMessage.PITCH_BEND ->
                    changes.add(new NoteChange(
                            frame,
                            NoteChange.Kind.BEND,
                            Math.clamp((double) (one + (two << 7) - BEND_CENTRE) / (BEND_CENTRE - 1), -1, 1)));
                case ShortMessage.CONTROL_CHANGE -> {
                    switch (one) {
                        case VOLUME -> changes.add(new NoteChange(frame, NoteChange.Kind.VOLUME, two / MOST));
                        case PAN ->
                            changes.add(new NoteChange(
                                    frame, NoteChange.Kind.PAN, Math.clamp((two - 1) / (MOST - 1), 0, 1)));
                        case SUSTAIN -> changes.add(new NoteChange(frame, NoteChange.Kind.SUSTAIN, two / MOST));
                        default -> {}
                    }
                }
                default -> {}
            }
        }
        // A key that was never let go is let go at the end.
        for (Map.Entry<Integer, Deque<long[]>> entry : held.entrySet()) {
            for (long[] begun : entry.getValue()) {
                add(begun, entry.getKey() % Note.KEYS, last, notes);
            }
        }
        if (notes.size() > Notes.MOST || last > SongLength.mostFrames(sampleRateHz)) {
            throw new NotesFileException(
                    file, "has more notes than a song, or lasts longer.", "Choose another file.", null);
        }
        return new Notes(notes, changes, tempo);
    }

    private static void end(Map<Integer, Deque<long[]>> held, int key, int number, long frame, List<Note> notes) {
        Deque<long[]> begun = held.get(key);
        if (begun != null && !begun.isEmpty()) {
            add(begun.remove(), number, frame, notes);
        }
    }

    private static void add(long[] begun, int key, long frame, List<Note> notes) {
        notes.add(new Note(begun[0], Math.max(1, frame - begun[0]), key, (int) begun[1]));
    }

    private Tempo tempo() throws NotesFileException {
        List<Tempo.Change> changes = new ArrayList<>();
        double microseconds = USUAL_MICROSECONDS;
        if (sequence.getDivisionType() != Sequence.PPQ) {
            // Ticks of a film's frames: beats of half a second.
            double ticksPerSecond = sequence.getDivisionType() * sequence.getResolution();
            ticks.add(0L);
            ticksPerBeat = ticksPerSecond * USUAL_MICROSECONDS * 1e-6;
            return new Tempo(List.of(new Tempo.Change(0, 0, sampleRateHz * USUAL_MICROSECONDS * 1e-6)));
        }
        ticksPerBeat = sequence.getResolution();
        if (!(ticksPerBeat > 0)) {
            throw new NotesFileException(file, "says nothing of its tempo.", "Choose another file.", null);
        }
        double frame = 0;
        double beat = 0;
        long tick = 0;
        changes.add(new Tempo.Change(0, 0, sampleRateHz * microseconds * 1e-6));
        ticks.add(0L);
        for (MidiEvent event : events) {
            if (event.getMessage() instanceof MetaMessage meta
                    && meta.getType() == TEMPO
                    && meta.getData().length == 3) {
                byte[] data = meta.getData();
                double next = ((data[0] & 0xFF) << 16) | ((data[1] & 0xFF) << 8) | (data[2] & 0xFF);
                if (next < 1_000) {
                    continue;
                }
                double beats = (event.getTick() - tick) / ticksPerBeat;
                frame += beats * sampleRateHz * microseconds * 1e-6;
                beat += beats;
                tick = event.getTick();
                microseconds = next;
                Tempo.Change change = new Tempo.Change(Math.round(frame), beat, sampleRateHz * microseconds * 1e-6);
                if (Math.round(frame) == changes.getLast().frame()) {
                    changes.removeLast();
                    ticks.removeLast();
                }
                changes.add(change);
                ticks.add(tick);
            }
        }
        return new Tempo(changes);
    }

    private double ticksPerBeat;

    private long frame(long tick) {
        int at = 0;
        for (int i = 0; i < ticks.size(); i++) {
            if (ticks.get(i) <= tick) {
                at = i;
            }
        }
        Tempo.Change change = tempo.changes().get(at);
        return Math.round(change.frame() + (tick - ticks.get(at)) / ticksPerBeat * change.framesPerBeat());
    }
}
