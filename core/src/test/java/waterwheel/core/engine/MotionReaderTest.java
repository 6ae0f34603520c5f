package waterwheel.core.engine;

import static org.assertj.core.api.Assertions.assertThat;

import java.util.ArrayList;
import java.util.Arrays;
import java.util.List;
import java.util.SplittableRandom;
import java.util.stream.Stream;
import org.assertj.core.data.Offset;
import org.junit.jupiter.api.DisplayNameGeneration;
import org.junit.jupiter.api.DisplayNameGenerator;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.ValueSource;
import waterwheel.core.path.Motion;
import waterwheel.core.rides.Curve;
import waterwheel.core.rides.CurvePoint;
import waterwheel.core.rides.CurvePoint.Shape;
import waterwheel.core.rides.Ride;
import waterwheel.core.session.PanLaw;
import waterwheel.core.session.Placement;

/** Gains between control points, however the song is divided. */
@DisplayNameGeneration(DisplayNameGenerator.ReplaceUnderscores.class)
class MotionReaderTest {
    private static final int END = 30_000;

    /** A curve of which some stretches stand still. */
    private static Ride ride(SplittableRandom random, double least, double most) {
        List<CurvePoint> points = new ArrayList<>();
        List<Shape> shapes = List.of(Shape.values());
        double value = least;
        for (long frame = random.nextLong(200); frame < END; frame += random.nextLong(1, 5_000)) {
            value = random.nextInt(3) == 0 ? value : random.nextDouble(least, most);
            points.add(new CurvePoint(frame, value, shapes.get(random.nextInt(shapes.size()))));
        }
        return Ride.of(new Curve(points));
    }

    private static List<Motion> motions(SplittableRandom random) {
        Placement still = new Placement(0.2, 0.7, Placement.Mode.PLACE);
        Ride none = Ride.of(Curve.NONE);
        return List.of(
                new Motion.Level(List.of(ride(random, -100, 12), ride(random, -6, 6)), -2, -1),
                new Motion.Gate(List.of(ride(random, 0, 1)), random.nextBoolean(), 1),
                new Motion.Placing(PanLaw.MINUS_3, 1, still, ride(random, -1, 1), none),
                new Motion.Placing(PanLaw.MINUS_4_5, 2, still, ride(random, -1, 1), ride(random, 0, 2)),
                new Motion.Placing(
                        PanLaw.MINUS_3, 2, still.withMode(Placement.Mode.BALANCE), ride(random, -1, 1), none));
    }

    /** The gains of some frames, in rows that hold something else before. */
    private static float[][] read(MotionReader reader, int gains, long frame, int frames) {
        float[][] rows = new float[gains][frames];
        for (float[] row : rows) {
            Arrays.fill(row, 123);
        }
        reader.fill(frame, rows, frames);
        for (int g = 0; g < gains; g++) {
            reader.complete(g, rows, frames);
        }
        return rows;
    }

    @ParameterizedTest
    @ValueSource(longs = {1, 2, 3, 4, 5, 6})
    void gains_hang_on_the_frame_alone(long seed) {
        SplittableRandom random = new SplittableRandom(seed);
        for (Motion motion : motions(random)) {
            MotionReader whole = new MotionReader(motion);
            MotionReader divided = new MotionReader(motion);
            float[][] all = read(whole, motion.gains(), -50, END);
            for (int at = 0; at < END; ) {
                int frames = Math.min(END - at, random.nextInt(4) == 0 ? 1 : random.nextInt(1, 3_000));
                float[][] some = read(divided, motion.gains(), at - 50, frames);
                for (int g = 0; g < motion.gains(); g++) {
                    assertThat(some[g]).isEqualTo(Arrays.copyOfRange(all[g], at, at + frames));
                }
                at += frames;
            }
        }
    }

    @ParameterizedTest
    @ValueSource(longs = {11, 12, 13})
    void at_control_points_away_from_jumps_they_are_what_the_motion_says(long seed) {
        SplittableRandom random = new SplittableRandom(seed);
        for (Motion motion : motions(random)) {
            MotionReader reader = new MotionReader(motion);
            Motion.Reader said = motion.reader();
            double[][] exact = new double[motion.gains() + Motion.Reader.ROOM][1];
            long[] own = Curve.frames(motion.curves().stream());
            for (long frame = 0; frame < END; frame += ControlPoints.GRID) {
                long at = frame;
                if (Arrays.stream(own).anyMatch(point -> at >= point && at < point + MotionReader.CROSSING)) {
                    continue;
                }
                said.read(new long[] {frame}, 1, false, exact);
                float[][] read = read(reader, motion.gains(), frame, 1);
                for (int g = 0; g < motion.gains(); g++) {
                    assertThat((double) read[g][0])
                            .isCloseTo(exact[g][0], Offset.offset(1e-7 * Math.max(1, Math.abs(exact[g][0]))));
                }
            }
        }
    }

    @Test
    void a_gain_that_stands_is_told_and_one_that_moves_is_not() {
        Ride held = Ride.of(new Curve(Stream.of(0, 5_000, 9_000)
                .map(frame -> new CurvePoint(frame, frame == 9_000 ? 0 : -6, Shape.LINE))
                .toList()));
        MotionReader reader = new MotionReader(new Motion.Level(List.of(held), 0, 1));
        float[][] rows = new float[1][2_048];
        reader.fill(2_048, rows, 2_048);
        assertThat(reader.isSteady(0)).isTrue();
        assertThat((double) reader.steady(0)).isCloseTo(Math.pow(10, -6 / 20.0), Offset.offset(1e-7));
        reader.fill(4_096, rows, 2_048);
        assertThat(reader.isSteady(0)).isFalse();
        reader.fill(10_240, rows, 2_048);
        assertThat(reader.steady(0)).isEqualTo(1);
    }
}
