package waterwheel.bench;

import com.fasterxml.jackson.databind.node.ObjectNode;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.List;
import java.util.SplittableRandom;
import waterwheel.core.instruments.Instrument;
import waterwheel.core.instruments.Performance;
import waterwheel.core.instruments.Performer;
import waterwheel.core.instruments.Region;
import waterwheel.core.instruments.Sample;
import waterwheel.core.json.Json;
import waterwheel.core.notes.Note;
import waterwheel.core.notes.Notes;
import waterwheel.core.sources.SourceId;

/** How long the sample player takes for a block of many voices at once, all at other pitches, of stereo samples. */
final class VoicesBench {
    private static final int BLOCK = 128;
    private static final int RATE = 48_000;
    private static final int SECONDS = 10;
    private static final int SAMPLE_FRAMES = 100_000;

    private VoicesBench() {}

    static String run(int voices) {
        List<Note> notes = new ArrayList<>();
        for (int i = 0; i < voices; i++) {
            // None at the pitch that it was recorded at, which would be a mere copy.
            notes.add(new Note(0, (long) SECONDS * RATE, 28 + i % 64 + (i % 64 >= 32 ? 1 : 0), 100));
        }
        Region region = new Region(
                new SourceId("noise"),
                0,
                127,
                1,
                127,
                60,
                0,
                Region.Loop.CONTINUOUS,
                1_000,
                90_000,
                1,
                -30,
                0,
                1,
                1,
                1);
        Sample sample = new Sample(new float[][] {noise(1), noise(2)});
        Performance performance = new Performance(
                new Instrument.Sampler("Bench", List.of(region)),
                Notes.none(RATE).withNotes(notes),
                1);
        Performer performer = Performer.of(performance, 2, RATE, id -> sample);
        float[][] out = new float[2][BLOCK];
        int blocks = SECONDS * RATE / BLOCK;
        double[] millis = new double[blocks];
        for (int round = 0; round < 2; round++) {
            for (int b = 0; b < blocks; b++) {
                long start = System.nanoTime();
                performer.read((long) b * BLOCK, out, BLOCK);
                millis[b] = (System.nanoTime() - start) * 1e-6;
            }
        }
        Arrays.sort(millis);
        ObjectNode node = Json.object();
        node.put("bench", voices + " voices of the sample player in blocks of " + BLOCK);
        node.set("lastsMilliseconds", Json.figure(1_000.0 * BLOCK / RATE, 2));
        node.set("medianMilliseconds", Json.figure(millis[blocks / 2], 3));
        node.set("percentile999Milliseconds", Json.figure(millis[(int) (0.999 * blocks)], 3));
        node.set("partOfBlock", Json.figure(millis[blocks / 2] / (1_000.0 * BLOCK / RATE), 3));
        return Json.compact(node);
    }

    private static float[] noise(long seed) {
        SplittableRandom random = new SplittableRandom(seed);
        float[] plane = new float[SAMPLE_FRAMES];
        for (int i = 0; i < plane.length; i++) {
            plane[i] = random.nextFloat() * 2 - 1;
        }
        return plane;
    }
}
