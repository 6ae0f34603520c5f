package waterwheel.core.demo;

import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import javax.sound.midi.InvalidMidiDataException;
import javax.sound.midi.MetaMessage;
import javax.sound.midi.MidiEvent;
import javax.sound.midi.MidiSystem;
import javax.sound.midi.Sequence;
import javax.sound.midi.ShortMessage;
import waterwheel.core.audiofile.RecordedFile;
import waterwheel.core.audiofile.SampleEncoding;
import waterwheel.core.audiofile.WavWriter;
import waterwheel.core.edit.NoteEdits;
import waterwheel.core.errors.AudioFileException;
import waterwheel.core.errors.NotesFileException;
import waterwheel.core.errors.WaterwheelException;
import waterwheel.core.inserts.Insert;
import waterwheel.core.inserts.SlotId;
import waterwheel.core.instruments.Instrument;
import waterwheel.core.intake.InstrumentImport;
import waterwheel.core.notes.MidiNotes;
import waterwheel.core.notes.Notes;
import waterwheel.core.printing.PrintOrder;
import waterwheel.core.printing.PrintRun;
import waterwheel.core.printing.Printed;
import waterwheel.core.processing.Convolution;
import waterwheel.core.processing.Multiband;
import waterwheel.core.processing.Saturator;
import waterwheel.core.session.Channel;
import waterwheel.core.session.ChannelId;
import waterwheel.core.session.Session;
import waterwheel.core.session.Track;
import waterwheel.core.sources.SourceId;
import waterwheel.core.work.Progress;

/**
 * What of the demo is played by notes: dancers' steps by samples with three outputs, a harp through a dear chain, and a
 * drone that is printed already.
 */
final class DemoInstruments {
    private static final String FOLDER = "kit";
    /** Ticks a quaver. */
    private static final int QUAVER = 240;

    private static final int MICROSECONDS_A_BEAT = (int) (2 * Tune.QUAVER_SECONDS * 1_000_000);
    private static final int HEEL = 36;
    private static final int TOE = 38;
    private static final int BRUSH = 42;
    private static final double STEPS_DB = -24;
    private static final double HARP_DB = -14;
    private static final double DRONE_DB = -20;

    private final Path folder;
    private final int rate;

    private DemoInstruments(Path folder, int rate) {
        this.folder = folder;
        this.rate = rate;
    }

    static Session added(Session session, Path folder, Progress progress) throws WaterwheelException {
        DemoInstruments instruments = new DemoInstruments(folder, session.sampleRateHz());
        Session out = instruments.steps(session);
        progress.at(0.3);
        out = instruments.harp(out);
        return instruments.drone(out, progress.part(0.3, 1));
    }

    private Session steps(Session session) throws WaterwheelException {
        Path kit = folder.resolve(FOLDER);
        RecordedFile.makeFolder(kit);
        write(kit.resolve("heel-1.wav"), new Drum(95, 60, 0.05, 0.5), 11);
        write(kit.resolve("heel-2.wav"), new Drum(92, 66, 0.05, 0.55), 12);
        write(kit.resolve("toe.wav"), new Drum(310, 140, 0.02, 0.8), 13);
        write(kit.resolve("brush.wav"), new Drum(620, 0, 0.015, 1), 14);
        Path map = kit.resolve("steps.sfz");
        try {
            Files.write(
                    map,
                    List.of(
                            "// Dancers' shoes on a board.",
                            "<global> loop_mode=one_shot",
                            "<group> key=" + HEEL + " output=0 seq_length=2",
                            "<region> sample=heel-1.wav seq_position=1",
                            "<region> sample=heel-2.wav seq_position=2",
                            "<group> key=" + TOE + " output=1 pan=-30",
                            "<region> sample=toe.wav",
                            "<group> key=" + BRUSH + " output=2 pan=40",
                            "<region> sample=brush.wav volume=-6"));
        } catch (IOException e) {
            throw AudioFileException.cannotWrite(map, e);
        }
        Path file = kit.resolve("steps.mid");
        write(file, dance());
        InstrumentImport taken = InstrumentImport.take(session, folder, map, Progress.NONE);
        Notes notes = MidiNotes.read(file, rate).notes();
        Session out = NoteEdits.addInstrument("Steps", taken.instrument(), notes, taken.sources())
                .apply(session);
        String[] names = {"Steps heel", "Steps toe", "Steps brush"};
        for (int i = 0; i < names.length; i++) {
            String name = names[i];
            ChannelId id = out.tracks().get(session.tracks().size() + i).id();
            out = out.withChannel(id, channel -> ((Track) channel)
                    .withName(name)
                    .withKind(Track.Kind.PERCUSSIVE)
                    .withColour(Track.Colour.CLAY));
        }
        ChannelId bus = out.buses().stream()
                .filter(one -> one.name().equals("Steps"))
                .findFirst()
                .orElseThrow()
                .id();
        return out.withStrip(bus, strip -> strip.withFaderDb(STEPS_DB));
    }

    private Session harp(Session session) throws WaterwheelException {
        Session out = added(session, "Harp", Instrument.Synth.PLUCKED, Tune.verse(), 12, HARP_DB);
        Path file = folder.resolve(FOLDER).resolve("harp-body.wav");
        float[] body = new float[rate / 8];
        Dice dice = new Dice(21);
        for (int i = 0; i < body.length; i++) {
            body[i] = (float) (0.2 * dice.next() * StrictMath.exp(-36.0 * i / rate));
        }
        body[0] = 1;
        write(file, body);
        SourceId id = SourceId.free("harp-body", out.sourceIds());
        ChannelId harp = out.tracks().getLast().id();
        Insert convolution = Insert.of(new SlotId("i3"), Convolution.KIND);
        List<Insert> chain = List.of(
                Insert.of(new SlotId("i1"), Multiband.KIND),
                Insert.of(new SlotId("i2"), Saturator.KIND).withOutputDb(-6),
                convolution
                        .withProcessor(convolution.processor().withResponse(id))
                        .withMix(0.4));
        return out.withMoreSources(List.of(RecordedFile.source(id, FOLDER, file, body.length, 1, rate)))
                .withStrip(harp, strip -> strip.withInserts(chain));
    }

    private Session drone(Session session, Progress progress) throws WaterwheelException {
        Session out = added(session, "Drone", Instrument.Synth.STRUCK, Tune.chorus(), -12, DRONE_DB);
        Channel drone = out.tracks().getLast();
        return Printed.into(
                out, PrintRun.run(out, folder, List.of(PrintOrder.of(drone)), SampleEncoding.FLOAT_32, progress));
    }

    private Session added(
            Session session, String name, Instrument.Synth sound, List<Note> melody, int semitones, double faderDb)
            throws WaterwheelException {
        Path file = folder.resolve(FOLDER).resolve(name + ".mid");
        write(file, melody.stream().map(note -> note.transposed(semitones)).toList());
        Notes notes = MidiNotes.read(file, rate).notes();
        Session out = NoteEdits.addInstrument(name, sound, notes, List.of()).apply(session);
        return out.withStrip(out.tracks().getLast().id(), strip -> strip.withFaderDb(faderDb));
    }

    /** Steps in the second tune: heels on the beats, toes between, brushes where the tune turns. */
    private static List<Note> dance() {
        List<Note> steps = new ArrayList<>();
        for (int bar = Tune.SECOND_TUNE; bar < Tune.ENDING; bar++) {
            for (int quaver = 0; quaver < Tune.BAR; quaver++) {
                int at = bar * Tune.BAR + quaver;
                int key = quaver % 4 == 0 ? HEEL : quaver % 2 == 1 ? TOE : bar % 4 == 3 ? BRUSH : HEEL;
                steps.add(new Note(at, 0.5, key, quaver % 4 == 0 ? 1 : 0.6 + 0.1 * (quaver % 3)));
            }
        }
        return steps;
    }

    private void write(Path file, Drum drum, long seed) throws AudioFileException {
        float[] plane = new float[rate / 2];
        drum.play(List.of(new Note(0, 1, 60, 1)), plane, rate, 0.5, seed);
        write(file, plane);
    }

    private void write(Path file, float[] plane) throws AudioFileException {
        try (WavWriter writer = WavWriter.create(file, 1, rate, SampleEncoding.FLOAT_32, plane.length)) {
            writer.write(new float[][] {plane}, 0, plane.length);
            writer.finish();
        }
    }

    /** Notes as a Standard MIDI File. */
    private static void write(Path file, List<Note> notes) throws NotesFileException {
        try {
            Sequence sequence = new Sequence(Sequence.PPQ, 2 * QUAVER);
            javax.sound.midi.Track track = sequence.createTrack();
            byte[] tempo = {
                (byte) (MICROSECONDS_A_BEAT >> 16), (byte) (MICROSECONDS_A_BEAT >> 8), (byte) MICROSECONDS_A_BEAT
            };
            track.add(new MidiEvent(new MetaMessage(0x51, tempo, tempo.length), 0));
            for (Note note : notes) {
                int force = (int) Math.round(1 + 126 * note.force());
                long start = Math.round(note.start() * QUAVER);
                long end = Math.round((note.start() + note.length()) * QUAVER);
                track.add(new MidiEvent(new ShortMessage(ShortMessage.NOTE_ON, 0, note.key(), force), start));
                track.add(new MidiEvent(new ShortMessage(ShortMessage.NOTE_OFF, 0, note.key(), 0), end));
            }
            MidiSystem.write(sequence, 0, file.toFile());
        } catch (InvalidMidiDataException | IOException e) {
            throw new NotesFileException(file, "cannot be written.", "Name another folder.", e);
        }
    }
}
