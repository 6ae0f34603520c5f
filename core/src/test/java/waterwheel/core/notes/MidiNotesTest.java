package waterwheel.core.notes;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatExceptionOfType;
import static org.assertj.core.api.Assertions.tuple;

import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.Arrays;
import java.util.List;
import java.util.Random;
import javax.sound.midi.InvalidMidiDataException;
import javax.sound.midi.MetaMessage;
import javax.sound.midi.MidiEvent;
import javax.sound.midi.MidiSystem;
import javax.sound.midi.Sequence;
import javax.sound.midi.ShortMessage;
import javax.sound.midi.Track;
import org.junit.jupiter.api.DisplayNameGeneration;
import org.junit.jupiter.api.DisplayNameGenerator;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import waterwheel.core.errors.NotesFileException;

/** Notes come out of a file at the frames that its tempi say. */
@DisplayNameGeneration(DisplayNameGenerator.ReplaceUnderscores.class)
class MidiNotesTest {
    private static final int RATE = 48_000;
    private static final int PPQ = 480;

    @TempDir
    Path folder;

    private static void add(Track track, long tick, int command, int channel, int one, int two)
            throws InvalidMidiDataException {
        track.add(new MidiEvent(new ShortMessage(command, channel, one, two), tick));
    }

    private static void tempo(Track track, long tick, int microseconds) throws InvalidMidiDataException {
        byte[] data = {(byte) (microseconds >> 16), (byte) (microseconds >> 8), (byte) microseconds};
        track.add(new MidiEvent(new MetaMessage(0x51, data, 3), tick));
    }

    private Path write(Sequence sequence, int type) throws IOException {
        Path file = folder.resolve("notes.mid");
        MidiSystem.write(sequence, type, file.toFile());
        return file;
    }

    @Test
    void ticks_become_frames_by_the_map_of_tempi() throws Exception {
        Sequence sequence = new Sequence(Sequence.PPQ, PPQ);
        Track tempi = sequence.createTrack();
        // 120 beats a minute, from the third beat on 60.
        tempo(tempi, 0, 500_000);
        tempo(tempi, 2 * PPQ, 1_000_000);
        Track track = sequence.createTrack();
        add(track, 0, ShortMessage.NOTE_ON, 0, 60, 100);
        add(track, PPQ, ShortMessage.NOTE_OFF, 0, 60, 0);
        add(track, 3 * PPQ, ShortMessage.NOTE_ON, 0, 64, 1);
        // A stroke of no force is an end.
        add(track, 3 * PPQ + PPQ / 2, ShortMessage.NOTE_ON, 0, 64, 0);
        Notes notes = MidiNotes.read(write(sequence, 1), RATE).notes();
        assertThat(notes.notes())
                .containsExactly(
                        // A beat at 120 lasts 24,000 frames; the fourth begins one second behind two of them.
                        new Note(0, 24_000, 60, 100), new Note(96_000, 24_000, 64, 1));
        assertThat(notes.tempo().beat(96_000)).isEqualTo(3);
        assertThat(notes.tempo().frame(3)).isEqualTo(96_000);
        assertThat(notes.tempo().aligned(95_000, 0.5)).isEqualTo(96_000);
    }

    @Test
    void bend_sustain_volume_and_pan_are_read_and_channels_kept_apart() throws Exception {
        Sequence sequence = new Sequence(Sequence.PPQ, PPQ);
        Track track = sequence.createTrack();
        add(track, 0, ShortMessage.NOTE_ON, 0, 60, 100);
        add(track, 0, ShortMessage.NOTE_ON, 9, 36, 90);
        add(track, 10, ShortMessage.PITCH_BEND, 0, 0x7F, 0x7F);
        add(track, 20, ShortMessage.CONTROL_CHANGE, 0, 64, 127);
        add(track, 30, ShortMessage.CONTROL_CHANGE, 0, 7, 127);
        add(track, 40, ShortMessage.CONTROL_CHANGE, 0, 10, 64);
        add(track, PPQ, ShortMessage.NOTE_OFF, 9, 36, 0);
        MidiNotes file = MidiNotes.read(write(sequence, 0), RATE);
        assertThat(file.channels()).containsExactly(1, 10);
        Notes one = file.notes(1);
        // Never let go: it ends where the last thing happens on its channel.
        assertThat(one.notes()).containsExactly(new Note(0, 2_000, 60, 100));
        assertThat(one.changes())
                .extracting(NoteChange::kind, NoteChange::value)
                .containsExactly(
                        tuple(NoteChange.Kind.BEND, 1.0),
                        tuple(NoteChange.Kind.SUSTAIN, 1.0),
                        tuple(NoteChange.Kind.VOLUME, 1.0),
                        tuple(NoteChange.Kind.PAN, 0.5));
        assertThat(file.notes(10).notes()).extracting(Note::key).containsExactly(36);
        assertThat(file.notes().notes()).hasSize(2);
    }

    @Test
    void what_is_no_file_of_notes_is_refused_in_a_sentence_whatever_it_holds() throws Exception {
        Sequence sequence = new Sequence(Sequence.PPQ, PPQ);
        Track track = sequence.createTrack();
        for (int i = 0; i < 50; i++) {
            add(track, 100L * i, ShortMessage.NOTE_ON, 0, 40 + i % 40, 100);
            add(track, 100L * i + 50, ShortMessage.NOTE_OFF, 0, 40 + i % 40, 0);
        }
        byte[] good = Files.readAllBytes(write(sequence, 1));
        Random random = new Random(3);
        Path file = folder.resolve("bad.mid");
        for (int round = 0; round < 300; round++) {
            byte[] bad = Arrays.copyOf(good, round % 3 == 0 ? random.nextInt(good.length) : good.length);
            for (int i = 0; i < 1 + random.nextInt(4) && bad.length > 0; i++) {
                bad[random.nextInt(bad.length)] = (byte) random.nextInt(256);
            }
            Files.write(file, bad);
            try {
                assertThat(MidiNotes.read(file, RATE).notes().notes().size()).isLessThan(1_000);
            } catch (NotesFileException e) {
                assertThat(e).hasMessageStartingWith("bad.mid ");
            }
        }
        assertThatExceptionOfType(NotesFileException.class)
                .isThrownBy(() -> MidiNotes.read(folder.resolve("none.mid"), RATE))
                .withMessageContaining("none.mid cannot be read");
    }

    @Test
    void notes_have_names_and_an_order() {
        assertThat(List.of(Note.name(60), Note.name(69), Note.name(0), Note.name(127)))
                .containsExactly("C4", "A4", "C-1", "G9");
        Notes notes = Notes.none(RATE).withNotes(List.of(new Note(9, 1, 50, 1), new Note(3, 20, 70, 1)));
        assertThat(notes.notes()).extracting(Note::startFrames).containsExactly(3L, 9L);
        assertThat(notes.endFrames()).isEqualTo(23);
    }
}
