package waterwheel.core.engine;

import static org.assertj.core.api.Assertions.assertThat;

import java.util.ArrayList;
import java.util.List;
import java.util.SplittableRandom;
import org.junit.jupiter.api.DisplayNameGeneration;
import org.junit.jupiter.api.DisplayNameGenerator;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.ValueSource;
import waterwheel.core.inserts.Insert;
import waterwheel.core.inserts.SlotId;
import waterwheel.core.processing.Effects;
import waterwheel.core.processing.Equaliser;
import waterwheel.core.processing.Site;
import waterwheel.core.rides.Curve;
import waterwheel.core.rides.CurvePoint;
import waterwheel.core.rides.Ride;
import waterwheel.core.testing.Signals;

/** An equaliser that follows its moves over whole blocks against one that is told of each by itself. */
@DisplayNameGeneration(DisplayNameGenerator.ReplaceUnderscores.class)
class RiddenEffectTest {
    private static final int FRAMES = 12_000;
    private static final int MOST = 1_024;
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

    @Test
    void what_moves_is_heard() {
        Insert insert = insert(1);
        float[][] still = processed(insert.withRides(insert.rides().without("bell1Db")), 1, MOST);
        assertThat(processed(insert, 1, MOST)[0]).isNotEqualTo(still[0]);
    }
}
