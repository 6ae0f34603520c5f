package waterwheel.core.playback;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.within;

import java.nio.file.Path;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Objects;
import java.util.SplittableRandom;
import org.junit.jupiter.api.DisplayNameGeneration;
import org.junit.jupiter.api.DisplayNameGenerator;
import org.junit.jupiter.api.io.TempDir;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.ValueSource;
import waterwheel.core.engine.LiveLoops;
import waterwheel.core.engine.Media;
import waterwheel.core.engine.Plan;
import waterwheel.core.engine.PlanCompiler;
import waterwheel.core.engine.PlanRun;
import waterwheel.core.inserts.Insert;
import waterwheel.core.inserts.Processor;
import waterwheel.core.inserts.SlotId;
import waterwheel.core.levels.ChannelLevels;
import waterwheel.core.levels.SessionMeasurement;
import waterwheel.core.path.Stage;
import waterwheel.core.processing.StereoTool;
import waterwheel.core.session.ChannelId;
import waterwheel.core.session.Placement;
import waterwheel.core.session.Session;
import waterwheel.core.session.Track;
import waterwheel.core.session.Vca;
import waterwheel.core.testing.Sessions;
import waterwheel.core.units.Decibels;
import waterwheel.core.work.Progress;
import waterwheel.core.work.Team;

/**
 * Whoever tells the level of a stage tells the same: the whole song's levels, the live bars, the live meters and plain
 * arithmetic, for channels of chance with a steady sound.
 */
@DisplayNameGeneration(DisplayNameGenerator.ReplaceUnderscores.class)
class EveryReaderTest {
    private static final int FRAMES = 9_600;
    private static final int BLOCK = 256;
    private static final ChannelId ONE = Sessions.id("one");

    @TempDir
    Path folder;

    private static float[] steady(float level) {
        float[] samples = new float[FRAMES];
        Arrays.fill(samples, level);
        return samples;
    }

    /** Levels by stage and part, as arithmetic has them, linear, one a plane. */
    private static final class Expected {
        private final Map<String, double[]> stages = new HashMap<>();
        private double[] now;

        Expected(double... planes) {
            now = planes;
        }

        void then(double factor, Stage stage, String part) {
            now = Arrays.stream(now).map(x -> x * factor).toArray();
            stages.put(stage + part, now);
        }

        void then(double[][] gains, Stage stage, String part) {
            double[] before = now;
            now = Arrays.stream(gains)
                    .mapToDouble(row -> {
                        double sum = 0;
                        for (int i = 0; i < row.length; i++) {
                            sum += row[i] * before[i];
                        }
                        return sum;
                    })
                    .toArray();
            stages.put(stage + part, now);
        }

        double peak(Stage stage, String part) {
            return Arrays.stream(stages.get(stage + part)).map(Math::abs).max().orElseThrow();
        }
    }

    private static double random(SplittableRandom random, double least, double most) {
        return least + random.nextDouble() * (most - least);
    }

    @ParameterizedTest
    @ValueSource(ints = {1, 2, 3, 4, 5, 6, 7, 8, 9, 10, 11, 12, 13, 14, 15, 16})
    void all_agree_on_every_stage(int seed) throws Exception {
        SplittableRandom random = new SplittableRandom(seed);
        boolean stereo = random.nextBoolean();
        Sessions made = new Sessions(folder);
        Session plain = (stereo
                        ? made.track("one", "main", steady(0.2f), steady(0.1f))
                        : made.track("one", "main", steady(0.2f)))
                .build();
        Expected expected = stereo ? new Expected(0.2, 0.1) : new Expected(0.2);
        expected.then(1, Stage.SOURCE, "");
        double clipDb = random(random, -12, 6);
        double trimDb = random(random, -12, 6);
        boolean inverted = random.nextBoolean();
        expected.then(Decibels.toFactor(clipDb), Stage.CLIPS, "");
        expected.then(Decibels.toFactor(trimDb) * (inverted ? -1 : 1), Stage.TRIM, "");
        List<Insert> inserts = new ArrayList<>();
        for (int i = 0; i < random.nextInt(4); i++) {
            double db = random(random, -6, 6);
            double inputDb = random(random, -6, 6);
            Insert insert = Insert.of(new SlotId("s" + i), StereoTool.KIND)
                    .withProcessor(Processor.usual(StereoTool.KIND)
                            .with("middleDb", db)
                            .with("sideDb", db))
                    .withInputDb(inputDb)
                    .withBypassed(random.nextInt(3) == 0);
            inserts.add(insert);
            if (!insert.bypassed()) {
                expected.then(Decibels.toFactor(db + inputDb), Stage.INSERT, "s" + i);
            }
        }
        double faderDb = random(random, -20, 6);
        double vcaDb = random(random, -10, 3);
        Placement placement = new Placement(
                random(random, -1, 1),
                random(random, 0, 2),
                random.nextBoolean() ? Placement.Mode.PLACE : Placement.Mode.BALANCE);
        boolean muted = random.nextInt(4) == 0;
        expected.then(Decibels.toFactor(faderDb + vcaDb), Stage.FADER, "");
        expected.then(placement.gains(plain.panLaw(), stereo ? 2 : 1), Stage.PLACEMENT, "");
        expected.then(muted ? 0 : 1, Stage.OUTPUT, "");
        Session session = plain.withChannel(ONE, c -> ((Track) c)
                        .withClips(List.of(((Track) c).clips().getFirst().withGainDb(clipDb))))
                .withStrip(ONE, s -> s.withTrimDb(trimDb)
                        .withPolarityInverted(inverted)
                        .withInserts(inserts)
                        .withFaderDb(faderDb)
                        .withPlacement(placement)
                        .withMuted(muted))
                .withVcas(List.of(new Vca(Sessions.id("v"), "v", vcaDb, false, List.of(ONE), List.of())));

        ChannelLevels measured =
                SessionMeasurement.of(session, folder, Progress.NONE).of(ONE).orElseThrow();
        LivePeaks live;
        ChannelMeter meter;
        try (Media media = Media.open(session, folder)) {
            Plan plan = PlanCompiler.forPlayback(session, LiveLoops.NONE);
            PlanRun run = PlanRun.ofAll(plan, media, Team.alone(), BLOCK);
            LiveMeters.Meters meters = new LiveMeters.Meters(plan);
            LiveMeters taps = new LiveMeters(plan, run, meters);
            for (int at = 0; at + BLOCK <= FRAMES / 2; at += BLOCK) {
                run.process(at, BLOCK);
            }
            live = new LivePeaks(plan, taps.take());
            meter = Objects.requireNonNull(meters.byChannel().get(ONE));
        }
        // Sides of one polarity add up in a placement, so the bound of what is live is met exactly.
        boolean adding = placement.width() <= 1;
        expected.stages.keySet().forEach(key -> {
            Stage stage = Stage.valueOf(key.replaceAll("s\\d$", ""));
            String part = key.substring(stage.name().length());
            double peak = expected.peak(stage, part);
            double told = part.isEmpty()
                    ? measured.at(stage).samplePeakDbfs()
                    : measured.after(new SlotId(part)).orElseThrow().samplePeakDbfs();
            assertThat(Decibels.toFactor(told)).as("%s of the whole song", key).isCloseTo(peak, within(1e-5));
            double now = live.known(ONE, stage, part).orElseThrow();
            if (adding || (stage != Stage.PLACEMENT && stage != Stage.OUTPUT)) {
                assertThat(now).as("%s live", key).isCloseTo(peak, within(1e-5));
            } else {
                assertThat(now).as("%s live", key).isGreaterThan(peak - 1e-5);
            }
        });
        assertThat(Decibels.toFactor(meter.peakDbfs()))
                .as("the meter after the trim")
                .isCloseTo(expected.peak(Stage.TRIM, ""), within(1e-5));
        assertThat(live.mix()).isCloseTo(expected.peak(Stage.OUTPUT, ""), within(1e-5));
    }
}
