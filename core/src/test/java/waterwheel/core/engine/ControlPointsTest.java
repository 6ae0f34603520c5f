package waterwheel.core.engine;

import static org.assertj.core.api.Assertions.assertThat;

import java.util.Arrays;
import java.util.List;
import java.util.SplittableRandom;
import java.util.TreeSet;
import java.util.stream.LongStream;
import java.util.stream.Stream;
import org.junit.jupiter.api.DisplayNameGeneration;
import org.junit.jupiter.api.DisplayNameGenerator;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.ValueSource;
import waterwheel.core.rides.Curve;
import waterwheel.core.rides.CurvePoint;

/** Frames of the grid and of curves, however they are asked for. */
@DisplayNameGeneration(DisplayNameGenerator.ReplaceUnderscores.class)
class ControlPointsTest {
    private static final long END = 2_000;

    private static Curve curve(SplittableRandom random, int points) {
        List<CurvePoint> made = random.longs(points, 0, END)
                .map(frame -> frame % 3 == 0 ? frame - frame % ControlPoints.GRID : frame)
                .sorted()
                .distinct()
                .mapToObj(frame -> new CurvePoint(frame, 0, CurvePoint.Shape.LINE))
                .toList();
        return new Curve(made);
    }

    @ParameterizedTest
    @ValueSource(longs = {1, 2, 3, 4, 5})
    void they_are_those_of_the_grid_and_of_all_curves(long seed) {
        SplittableRandom random = new SplittableRandom(seed);
        List<Curve> curves = List.of(curve(random, 40), curve(random, 3), Curve.NONE);
        TreeSet<Long> all = new TreeSet<>(LongStream.range(0, 2 * END / ControlPoints.GRID)
                .map(i -> i * ControlPoints.GRID)
                .boxed()
                .toList());
        curves.forEach(one -> one.points().forEach(point -> all.add(point.frame())));
        ControlPoints points = new ControlPoints(curves.stream());
        for (int turn = 0; turn < 500; turn++) {
            long frame = random.nextLong(END);
            long end = frame + random.nextLong(1, 400);
            long[] found = new long[random.nextInt(2, 40)];
            int count = points.around(frame, end, found);
            Long first = all.floor(frame);
            assertThat(points.last(frame)).isEqualTo(first);
            assertThat(points.next(frame)).isEqualTo(all.higher(frame));
            List<Long> wanted = Stream.concat(all.subSet(first, end).stream(), Stream.of(all.ceiling(end)))
                    .limit(found.length)
                    .toList();
            assertThat(Arrays.stream(found, 0, count + 1).boxed()).containsExactlyElementsOf(wanted);
        }
    }
}
