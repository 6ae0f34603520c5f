package waterwheel.core.engine;

import static org.assertj.core.api.Assertions.assertThat;

import java.util.ArrayList;
import java.util.Arrays;
import java.util.List;
import java.util.SplittableRandom;
import org.junit.jupiter.api.DisplayNameGeneration;
import org.junit.jupiter.api.DisplayNameGenerator;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.MethodSource;
import org.junit.jupiter.params.provider.ValueSource;
import waterwheel.core.inserts.Insert;
import waterwheel.core.inserts.ProcessorKind;
import waterwheel.core.inserts.SlotId;
import waterwheel.core.processing.Effects;
import waterwheel.core.processing.Equaliser;
import waterwheel.core.processing.Response;
import waterwheel.core.processing.Site;
import waterwheel.core.rides.Control;
import waterwheel.core.rides.Curve;
import waterwheel.core.rides.CurvePoint;
import waterwheel.core.rides.Ride;
import waterwheel.core.testing.Signals;

/** An equaliser that follows its moves over whole blocks against one that is told of each by itself. */
@DisplayNameGeneration(DisplayNameGenerator.ReplaceUnderscores.class)
class RiddenEffectTest {
    private static final int FRAMES = 12_000;
    private static final int MOST = 1_024;
    private static final Response RESPONSE = Response.of(new float[][] {Signals.noise(0.2, 3_000, 1)});
    private static final List<CurvePoint.Shape> SHAPES = List.of(CurvePoint.Shape.values());

    /** Points near and far from each other, and in places more of them than there is room for in a block. */
    private static Curve curve(SplittableRandom random, double least, double most) {
        List<CurvePoint> points = new ArrayList<>();
        long frame = random.nextInt(50);
        while (frame < FRAMES) {
            CurvePoint.Shape shape = SHAPES.get(random.nextInt(3));
            points.add(new CurvePoint(frame, random.nextDouble(least, most), shape));
            boolean dense = frame > 4_000 && frame < 5_000;
            frame += dense ? 1 + random.nextInt(3) : 1 + random.nextInt(900);
        }
        return new Curve(points);
    }

    private static Insert insert(long seed) {
        SplittableRandom random = new SplittableRandom(seed);
        Insert plain = Insert.of(new SlotId("1"), Equaliser.KIND);
        Insert set = plain.withProcessor(plain.processor()
                .with("highPassSlope", random.nextInt(3))
                .with("highPassHz", 90)
                .with("highShelfDb", random.nextInt(2) * 4.0));
        return set.withRides(set.rides()
                .with("bell1Db", Ride.of(curve(random, -12, 12)))
                .with("bell2Hz", Ride.of(curve(random, 100, 8_000)))
                .with("highPassHz", Ride.of(curve(random, 20, 400))));
    }

    private static float[][] processed(Insert insert, int planes, int block) {
        Site site = new Site(48_000, planes, MOST, null);
        RiddenEffect effect = new RiddenEffect(Effects.start(insert, site), new InsertRides(insert), planes, MOST);
        float[][] out = new float[planes][FRAMES];
        float[][] part = new float[planes][MOST];
        for (int done = 0; done < FRAMES; done += block) {
            int count = Math.min(block, FRAMES - done);
            for (int p = 0; p < planes; p++) {
                System.arraycopy(Signals.noise(0.3, FRAMES, p), done, part[p], 0, count);
            }
            effect.process(part, null, count);
            for (int p = 0; p < planes; p++) {
                System.arraycopy(part[p], 0, out[p], done, count);
            }
        }
        return out;
    }

    @ParameterizedTest
    @ValueSource(ints = {1, 2})
    void however_the_song_is_divided_the_samples_are_the_same(int planes) {
        for (long seed = 1; seed <= 5; seed++) {
            Insert insert = insert(seed);
            float[][] small = processed(insert, planes, 31);
            assertThat(processed(insert, planes, MOST)).as("seed %d", seed).isDeepEqualTo(small);
            assertThat(processed(insert, planes, 333)).as("seed %d", seed).isDeepEqualTo(small);
        }
    }

    /** A slot whose processor and gains move, of settings of chance. */
    private static Insert ridden(ProcessorKind kind, long seed) {
        SplittableRandom random = new SplittableRandom(seed);
        Insert made = Insert.of(new SlotId("1"), kind);
        for (Control control : made.controls()) {
            if (random.nextInt(3) == 0) {
                made = made.withRides(
                        made.rides().with(control.key(), Ride.of(curve(random, control.least(), control.most()))));
            }
        }
        return made.withRides(made.rides().with(Insert.OUTPUT.key(), Ride.of(curve(random, -6, 6))));
    }

    private static RiddenEffect start(Insert insert, int most) {
        Site site = new Site(48_000, 2, most, RESPONSE);
        return new RiddenEffect(Effects.start(insert, site), new InsertRides(insert), 2, most);
    }

    private static float[][] run(RiddenEffect effect, int from, int to) {
        float[][] out = new float[2][to - from];
        for (int done = from; done < to; ) {
            int count = Math.min(MOST - done % MOST, to - done);
            float[][] part = new float[2][MOST];
            for (int p = 0; p < 2; p++) {
                System.arraycopy(Signals.noise(0.3, FRAMES, p), done, part[p], 0, count);
            }
            effect.process(part, null, count);
            for (int p = 0; p < 2; p++) {
                System.arraycopy(part[p], 0, out[p], done - from, count);
            }
            done += count;
        }
        return out;
    }

    @ParameterizedTest
    @MethodSource("waterwheel.core.processing.Processors#kinds")
    void it_goes_on_from_what_another_remembers_wherever_that_was(ProcessorKind kind) {
        int rebuilt = 0;
        for (long seed = 1; seed <= 40; seed++) {
            Insert insert = ridden(kind, seed);
            float[][] whole = run(start(insert, MOST), 0, FRAMES);
            RiddenEffect first = start(insert, MOST);
            int at = new SplittableRandom(seed).nextInt(FRAMES / 10, FRAMES / 2);
            run(first, 0, at);
            RiddenEffect copy = start(insert, 1);
            copy.adopt(first);
            if (!copy.rebuilds()) {
                continue;
            }
            rebuilt++;
            RiddenEffect second = start(insert, MOST);
            second.goOn(copy);
            float[][] rest = run(second, at, FRAMES);
            for (int p = 0; p < 2; p++) {
                assertThat(Arrays.mismatch(rest[p], Arrays.copyOfRange(whole[p], at, FRAMES)))
                        .as(
                                "%s, seed %d, %s, plane %d from frame %d",
                                kind.key(), seed, insert.rides().byKey().keySet(), p, at)
                        .isEqualTo(-1);
            }
        }
        assertThat(rebuilt).isGreaterThan(4);
    }

    @Test
    void what_moves_is_heard() {
        Insert insert = insert(1);
        float[][] still = processed(insert.withRides(insert.rides().without("bell1Db")), 1, MOST);
        assertThat(processed(insert, 1, MOST)[0]).isNotEqualTo(still[0]);
    }
}
