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
 * bend, sustain, volume and pan, and the map of tempi. Ticks are beats, and those become frames; each
 * tempo begins on a whole frame.
 */
public final class MidiNotes {
    private static final int LARGEST = 16 << 20;
    private static final int TEMPO = 0x51;
    private static final double USUAL_MICROSECONDS = 500_000;
    /** Shorter beats are no tempo. */
    private static final double LEAST_MICROSECONDS = 1_000;

    private static final int VOLUME = 7;
    private static final int PAN = 10;
    private static final int SUSTAIN = 64;
    private static final double MOST = 127;
    private static final int BEND_CENTRE = 8_192;

    private final Path file;
    private final int sampleRateHz;
    private final List<MidiEvent> events = new ArrayList<>();
    private final Tempo tempo;
    private final double ticksPerBeat;

    private MidiNotes(Path file, Sequence sequence, int sampleRateHz) throws NotesFileException {
        this.file = file;
        this.sampleRateHz = sampleRateHz;
        for (Track track : sequence.getTracks()) {
            for (int i = 0; i < track.size(); i++) {
                events.add(track.get(i));
            }
        }
        events.sort(Comparator.comparingLong(MidiEvent::getTick));
        boolean beats = sequence.getDivisionType() == Sequence.PPQ;
        // Ticks of a film's frames are counted to beats of half a second.
        ticksPerBeat = sequence.getResolution() * (beats ? 1 : sequence.getDivisionType() * USUAL_MICROSECONDS * 1e-6);
        if (!(ticksPerBeat > 0)) {
            throw new NotesFileException(file, "says nothing of its tempo.", "Choose another file.", null);
        }
        tempo = beats ? tempo() : Tempo.of(120, sampleRateHz);
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
            long frame = tempo.frame(event.getTick() / ticksPerBeat);
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

    /** How many beats there are to a tick never changes; only how long they are. */
    private Tempo tempo() {
        List<Tempo.Change> changes = new ArrayList<>();
        double perBeat = framesPerBeat(USUAL_MICROSECONDS);
        double frame = 0;
        double beat = 0;
        changes.add(new Tempo.Change(0, 0, perBeat));
        for (MidiEvent event : events) {
            double microseconds = event.getMessage() instanceof MetaMessage meta ? microseconds(meta) : 0;
            if (microseconds < LEAST_MICROSECONDS) {
                continue;
            }
            double now = event.getTick() / ticksPerBeat;
            frame += (now - beat) * perBeat;
            beat = now;
            perBeat = framesPerBeat(microseconds);
            if (Math.round(frame) == changes.getLast().frame()) {
                changes.removeLast();
            }
            changes.add(new Tempo.Change(Math.round(frame), beat, perBeat));
        }
        return new Tempo(changes);
    }

    private double framesPerBeat(double microseconds) {
        return sampleRateHz * microseconds * 1e-6;
    }

    /** How long a beat lasts by a message; 0 where it is of something else. */
    private static double microseconds(MetaMessage meta) {
        byte[] data = meta.getData();
        return meta.getType() == TEMPO && data.length == 3
                ? ((data[0] & 0xFF) << 16) | ((data[1] & 0xFF) << 8) | (data[2] & 0xFF)
                : 0;
    }
}
