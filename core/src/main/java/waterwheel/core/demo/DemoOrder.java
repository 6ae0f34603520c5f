package waterwheel.core.demo;

import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.OptionalDouble;
import waterwheel.core.audiofile.SampleEncoding;
import waterwheel.core.audiofile.WavWriter;
import waterwheel.core.errors.SessionFileException;
import waterwheel.core.errors.WaterwheelException;
import waterwheel.core.order.LineUp;
import waterwheel.core.order.Part;
import waterwheel.core.order.RunningOrder;
import waterwheel.core.order.Song;
import waterwheel.core.order.Stretch;
import waterwheel.core.order.Target;
import waterwheel.core.store.OrderFile;
import waterwheel.core.work.Progress;

/**
 * Writes the demo's running order: six short songs of the Weir House Band, each a folder of four stems. They are as such
 * songs are: one bass far too loud, one hardly there, one song mixed hot, one without its click. The same bytes every
 * time.
 */
public final class DemoOrder {
    /** Its file's name. */
    public static final String FILE = "order.json";

    private static final int RATE = 48_000;
    private static final int BARS = 20;
    private static final int COUNT_IN = 1;
    private static final int CHORUS = 9;
    private static final int LAST_VERSE = 15;
    private static final int FRAMES = (int) (BARS * Tune.BAR * Tune.QUAVER_SECONDS * RATE);

    private DemoOrder() {}

    /**
     * A song as it was mixed; levels are peaks of its stems in dBFS.
     *
     * @param chords roots above D, a bar each, over and over
     * @param clickDbfs NaN for none
     */
    private record Mixed(
            String title,
            List<Integer> chords,
            double drumsDbfs,
            double bassDbfs,
            double tracksDbfs,
            double clickDbfs) {}

    private static final List<Mixed> SONGS = List.of(
            new Mixed("Millpond Morning", List.of(0, 5, 7, 0), -8, -10, -12, -12),
            // The bass far too loud.
            new Mixed("Heron on the Weir", List.of(0, 0, 5, 7), -9, -1, -13, -12),
            new Mixed("Coldwater Lane", List.of(2, 7, 0, 0), -7, -11, -11, -12),
            // All of it hot.
            new Mixed("The Wheelwright", List.of(0, 7, 5, 7), -0.5, -2, -2.5, -6),
            // The bass hardly there.
            new Mixed("Reeds in the Race", List.of(5, 0, 7, 0), -8, -27, -12, -12),
            // Without a click.
            new Mixed("Last Light", List.of(0, 5, 0, 7), -10, -12, -9, Double.NaN));

    /**
     * Writes the songs and the running order unless it is there.
     *
     * @return the running order's file
     * @throws WaterwheelException if the disk refuses
     * @throws java.util.concurrent.CancellationException if the progress says stop
     */
    public static Path writeIfMissing(Path folder, Progress progress) throws WaterwheelException {
        Path file = folder.resolve(FILE);
        if (Files.exists(file)) {
            return file;
        }
        RunningOrder order = RunningOrder.empty("Weir House Band, evening on the green")
                .withTarget(Target.USUAL.withLufs(-24))
                .withParts(List.of(
                        new Part("Drums", false, OptionalDouble.empty()),
                        new Part("Bass", false, OptionalDouble.empty()),
                        new Part("Tracks", false, OptionalDouble.empty()),
                        new Part("Click", true, OptionalDouble.empty())))
                .with(new LineUp("Without drummer", List.of("Drums", "Bass", "Tracks", "Click")))
                .with(new LineUp("With drummer", List.of("Bass", "Tracks", "Click")))
                .with(new LineUp("With drummer and bass", List.of("Tracks", "Click")));
        for (int i = 0; i < SONGS.size(); i++) {
            progress.check();
            progress.at((double) i / SONGS.size());
            Mixed song = SONGS.get(i);
            String name = String.format(Locale.ROOT, "%02d %s", i + 1, song.title());
            write(folder.resolve(name), song, i);
            order = order.withSong(name, song.title());
            Song added = order.songs().getLast();
            order = order.withSong(added.id(), one -> one.withSections(sections()));
        }
        OrderFile.create(order, file);
        progress.at(1);
        return file;
    }

    private static List<Stretch> sections() {
        return List.of(
                new Stretch("Verse", seconds(COUNT_IN), seconds(CHORUS)),
                new Stretch("Chorus", seconds(CHORUS), seconds(LAST_VERSE)),
                new Stretch("Last verse", seconds(LAST_VERSE), seconds(BARS)));
    }

    private static double seconds(int bar) {
        return bar * Tune.BAR * Tune.QUAVER_SECONDS;
    }

    private static void write(Path folder, Mixed song, int seed) throws WaterwheelException {
        Map<String, float[][]> stems = new LinkedHashMap<>();
        stems.put("Drums", scaled(song.drumsDbfs(), drums(seed)));
        stems.put("Bass", scaled(song.bassDbfs(), new float[][] {bass(song, seed)}));
        stems.put("Tracks", scaled(song.tracksDbfs(), tracks(song, seed)));
        if (!Double.isNaN(song.clickDbfs())) {
            stems.put("Click", scaled(song.clickDbfs(), new float[][] {click()}));
        }
        try {
            Files.createDirectories(folder);
        } catch (IOException e) {
            throw new SessionFileException(
                    "The demo's songs cannot be written to " + folder + ": " + e.getMessage() + ".",
                    "Name another folder.",
                    e);
        }
        for (Map.Entry<String, float[][]> stem : stems.entrySet()) {
            float[][] planes = stem.getValue();
            Path file = folder.resolve(stem.getKey() + ".wav");
            try (WavWriter writer = WavWriter.create(file, planes.length, RATE, SampleEncoding.PCM_24, FRAMES)) {
                writer.write(planes, 0, FRAMES);
                writer.finish();
            }
        }
    }

    private static float[][] scaled(double peakDbfs, float[][] planes) {
        return DemoSession.scaledTo(peakDbfs, planes);
    }

    private static float[][] drums(int seed) {
        List<Note> low = new ArrayList<>();
        List<Note> high = new ArrayList<>();
        for (int bar = COUNT_IN; bar < BARS - 1; bar++) {
            boolean full = bar >= CHORUS && bar < LAST_VERSE;
            for (int q = 0; q < Tune.BAR; q++) {
                if (q % 4 == 0 || (full && q == 6)) {
                    low.add(new Note(bar * Tune.BAR + q, 1, 0, full ? 1 : 0.8));
                }
                if (q % 4 == 2 || (full && q % 2 == 1)) {
                    high.add(new Note(bar * Tune.BAR + q, 1, 0, q % 4 == 2 ? 0.8 : 0.35));
                }
            }
        }
        float[] stomp = new float[FRAMES];
        float[] frame = new float[FRAMES];
        new Drum(52 + seed, 40, 0.12, 0.35).play(low, stomp, RATE, 1, 100 + seed);
        new Drum(150 + 5 * seed, 60, 0.09, 1.2).play(high, frame, RATE, 0.8, 110 + seed);
        return sides(stomp, frame);
    }

    /** The first in the middle, the second a little to the right. */
    private static float[][] sides(float[] middle, float[] aside) {
        float[][] out = new float[2][FRAMES];
        for (int i = 0; i < FRAMES; i++) {
            out[0][i] = 0.7f * middle[i] + 0.4f * aside[i];
            out[1][i] = 0.7f * middle[i] + 0.9f * aside[i];
        }
        return out;
    }

    private static int root(Mixed song, int bar) {
        return 50 + song.chords().get(Math.floorMod(bar, song.chords().size()));
    }

    private static float[] bass(Mixed song, int seed) {
        List<Note> notes = new ArrayList<>();
        for (int bar = COUNT_IN; bar < BARS - 1; bar++) {
            int root = root(song, bar) - 12;
            notes.add(new Note(bar * Tune.BAR, 3.6, root, 1));
            notes.add(new Note(bar * Tune.BAR + 4, 1.8, root + 7, 0.8));
            notes.add(new Note(bar * Tune.BAR + 6, 1.8, root, 0.7));
        }
        float[] out = new float[FRAMES];
        new Plucked(0.35, 2.2, 0.25).play(notes, out, RATE, 1, 120 + seed);
        return out;
    }

    private static float[][] tracks(Mixed song, int seed) {
        List<Note> low = new ArrayList<>();
        List<Note> high = new ArrayList<>();
        int[] steps = {0, 7, 12, 7, 16, 12, 7, 12};
        for (int bar = COUNT_IN; bar < BARS - 1; bar++) {
            boolean full = bar >= CHORUS && bar < LAST_VERSE;
            for (int q = 0; q < Tune.BAR; q += full ? 1 : 2) {
                Note note = new Note(
                        bar * Tune.BAR + q, 2, root(song, bar) + 12 + steps[(q + seed) % steps.length], full ? 1 : 0.7);
                (q % 4 == 0 ? low : high).add(note);
            }
        }
        float[] left = new float[FRAMES];
        float[] right = new float[FRAMES];
        Plucked strings = new Plucked(0.7, 1.4, 0.7);
        strings.play(low, left, RATE, 1, 130 + seed);
        strings.play(high, right, RATE, 1, 140 + seed);
        float[][] out = new float[2][FRAMES];
        for (int i = 0; i < FRAMES; i++) {
            out[0][i] = left[i] + 0.3f * right[i];
            out[1][i] = right[i] + 0.3f * left[i];
        }
        return out;
    }

    private static float[] click() {
        float[] out = new float[FRAMES];
        for (int beat = 0; beat < BARS * 4; beat++) {
            int start = (int) (beat * 2 * Tune.QUAVER_SECONDS * RATE);
            double force = beat % 4 == 0 ? 1 : 0.6;
            for (int i = 0; i < RATE / 100; i++) {
                double fade = 1 - i * 100.0 / RATE;
                out[start + i] += (float) (force * fade * Wave.sine(i * 1_500.0 / RATE));
            }
        }
        return out;
    }
}
