package waterwheel.bench;

import com.fasterxml.jackson.databind.node.ObjectNode;
import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.List;
import waterwheel.core.audiofile.RecordedFile;
import waterwheel.core.audiofile.SampleEncoding;
import waterwheel.core.edit.NoteEdits;
import waterwheel.core.engine.Media;
import waterwheel.core.engine.Plan;
import waterwheel.core.engine.PlanCompiler;
import waterwheel.core.engine.SignalFiles;
import waterwheel.core.instruments.Instrument;
import waterwheel.core.instruments.Region;
import waterwheel.core.json.Json;
import waterwheel.core.notes.Note;
import waterwheel.core.notes.Notes;
import waterwheel.core.printing.PrintOrder;
import waterwheel.core.printing.PrintRun;
import waterwheel.core.printing.Printed;
import waterwheel.core.session.Bus;
import waterwheel.core.session.Output;
import waterwheel.core.session.PanLaw;
import waterwheel.core.session.Session;
import waterwheel.core.session.Strip;
import waterwheel.core.sources.AudioSource;
import waterwheel.core.sources.SourceId;
import waterwheel.core.work.Progress;
import waterwheel.core.work.Team;

/** Prints all 16 outputs of an instrument in one run, against one pass of the song to its mix's file. */
final class PrintBench {
    private static final int RATE = 48_000;
    private static final int NOTES_A_SECOND = 16;
    private static final int TURNS = 5;

    private PrintBench() {}

    static String run(int seconds, Path folder) throws Exception {
        Session session = session(seconds, folder);
        List<PrintOrder> orders = session.tracks().stream().map(PrintOrder::of).toList();
        double[] pass = new double[TURNS];
        double[] prints = new double[TURNS];
        for (int turn = 0; turn < TURNS; turn++) {
            long start = System.nanoTime();
            pass(session, folder, folder.resolve("mix-" + turn + ".wav"));
            pass[turn] = (System.nanoTime() - start) * 1e-9;
            start = System.nanoTime();
            List<Printed> printed = PrintRun.run(session, folder, orders, SampleEncoding.FLOAT_32, Progress.NONE);
            prints[turn] = (System.nanoTime() - start) * 1e-9;
            remove(folder, printed);
        }
        Arrays.sort(pass);
        Arrays.sort(prints);
        ObjectNode node = Json.object();
        node.put("bench", "print " + orders.size() + " outputs of one instrument");
        node.put("seconds", seconds);
        node.set("passSeconds", Json.figure(pass[TURNS / 2], 3));
        node.set("printSeconds", Json.figure(prints[TURNS / 2], 3));
        node.set("times", Json.figure(prints[TURNS / 2] / pass[TURNS / 2], 2));
        return Json.compact(node);
    }

    /** Files of all turns together would be more than a system writes behind a program's back: then the disk is timed. */
    private static void remove(Path folder, List<Printed> printed) throws IOException {
        for (Printed one : printed) {
            Files.delete(folder.resolve(one.source().path()));
        }
    }

    private static void pass(Session session, Path folder, Path file) throws Exception {
        Plan plan = PlanCompiler.compile(session);
        try (Media media = Media.open(session, folder);
                Team team = Team.ofAllProcessors()) {
            SignalFiles.write(
                    plan,
                    media,
                    team,
                    List.of(new SignalFiles.Target(plan.output(), file)),
                    SampleEncoding.FLOAT_32,
                    Progress.NONE);
        }
    }

    private static Session session(int seconds, Path folder) throws Exception {
        Path file = folder.resolve("sample.wav");
        Noise.write(file, 2, RATE, 1);
        SourceId id = new SourceId("sample");
        AudioSource source = RecordedFile.source(id, ".", file, 2L * RATE, 2, RATE);
        List<Region> regions = new ArrayList<>();
        for (int output = 1; output <= Instrument.MOST_OUTPUTS; output++) {
            regions.add(Region.of(id, 40 + output, 40 + output, 45 + output).withOutput(output));
        }
        List<Note> notes = new ArrayList<>();
        for (int i = 0; i < seconds * NOTES_A_SECOND; i++) {
            notes.add(new Note((long) i * RATE / NOTES_A_SECOND, RATE / 2, 41 + i % 16, 100));
        }
        Session empty = new Session(
                "Bench",
                RATE,
                PanLaw.MINUS_3,
                -18,
                List.of(),
                List.of(new Bus(NoiseSession.MAIN, "Main", Strip.unity(new Output.Nowhere()))),
                NoiseSession.MAIN,
                List.of());
        return NoteEdits.addInstrument(
                        "Bench",
                        new Instrument.Sampler("Bench", regions),
                        Notes.none(RATE).withNotes(notes),
                        List.of(source))
                .apply(empty);
    }
}
