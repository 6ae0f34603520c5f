package waterwheel.core.rides;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.within;

import java.util.ArrayList;
import java.util.List;
import java.util.SplittableRandom;
import net.jqwik.api.ForAll;
import net.jqwik.api.Property;
import net.jqwik.api.constraints.LongRange;

/** What is done to a stretch of a curve touches nothing outside of it; sums of curves are sums at every frame. */
class CurveRangeTest {
    private static final List<CurvePoint.Shape> SHAPES = List.of(CurvePoint.Shape.values());

    private static Curve random(SplittableRandom random, int most) {
        List<CurvePoint> points = new ArrayList<>();
        long frame = random.nextInt(2_000);
        for (int i = 0; i < 1 + random.nextInt(8); i++) {
            points.add(new CurvePoint(frame, random.nextDouble() * 40 - 30, SHAPES.get(random.nextInt(most))));
            frame += 1 + random.nextInt(5_000);
        }
        return new Curve(points);
    }

    @Property(tries = 200)
    void outside_a_stretch_nothing_changes(@ForAll @LongRange(min = 0, max = 1_000_000) long seed) {
        SplittableRandom random = new SplittableRandom(seed);
        Curve curve = random(random, 2);
        long from = random.nextInt(20_000);
        CurveRange range = new CurveRange(from, from + 2 + random.nextInt(10_000));
        Curve shifted = range.changed(curve, v -> v + 3, Scale.PLAIN);
        for (long frame = 0; frame < 45_000; frame += 7) {
            boolean inside = frame >= range.from() && frame < range.to() - 1;
            // The last frame before the stretch holds what it jumps from.
            if (frame == range.from() - 1 || frame == range.to() - 1) {
                continue;
            }
            double wanted = curve.at(frame) + (inside ? 3 : 0);
            // Within a frame of a jump a line becomes a step there.
            double slack = Math.abs(curve.at(frame + 2) - curve.at(Math.max(0, frame - 2))) + 1e-9;
            assertThat(shifted.at(frame)).as("frame %d of %s", frame, range).isCloseTo(wanted, within(slack));
        }
    }

    /** A curve in which a point was added, taken away or changed; sometimes with all after it gone. */
    private static Curve changed(Curve curve, SplittableRandom random) {
        List<CurvePoint> points = curve.points();
        CurvePoint some = points.get(random.nextInt(points.size()));
        return switch (random.nextInt(4)) {
            case 0 -> curve.with(new CurvePoint(random.nextInt(30_000), 5, SHAPES.get(random.nextInt(3))));
            case 1 -> curve.without(some.frame());
            case 2 -> curve.with(new CurvePoint(some.frame(), some.value() + 1, some.shape()));
            default -> new Curve(points.subList(0, random.nextInt(points.size())));
        };
    }

    @Property(tries = 500)
    void rides_say_the_same_up_to_where_they_are_said_to(@ForAll @LongRange(min = 0, max = 1_000_000) long seed) {
        SplittableRandom random = new SplittableRandom(seed);
        Ride ride = new Ride(random(random, 3), 1, random(random, 3), false);
        Ride other = random.nextBoolean()
                ? ride.withCurve(changed(ride.curve(), random))
                : ride.withOffsetCurve(changed(ride.offsetCurve(), random));
        long same = ride.sameUntil(other);
        assertThat(other.sameUntil(ride)).isEqualTo(same);
        for (long frame = 0; frame < Math.min(same, 45_000); frame += frame < same - 20 ? 7 : 1) {
            assertThat(other.at(frame, Scale.PLAIN))
                    .as("frame %d of %d", frame, same)
                    .isEqualTo(ride.at(frame, Scale.PLAIN));
        }
        // Were it always 0, nothing would be gained: where a point follows, all is the same up to the point before.
        CurvePoint last = ride.curve().points().getLast();
        Ride longer = ride.withCurve(ride.curve().with(new CurvePoint(last.frame() + 9, 7, last.shape())));
        assertThat(ride.sameUntil(longer)).isGreaterThanOrEqualTo(last.frame());
        assertThat(ride.sameUntil(ride.withSuspended(true))).isZero();
    }

    @Property(tries = 200)
    void a_stretch_that_is_copied_says_the_same_elsewhere(@ForAll @LongRange(min = 0, max = 1_000_000) long seed) {
        SplittableRandom random = new SplittableRandom(seed);
        Curve curve = random(random, 2);
        long from = random.nextInt(10_000);
        CurveRange range = new CurveRange(from, from + 100 + random.nextInt(10_000));
        long by = 30_000;
        List<CurvePoint> moved = range.cut(curve, Scale.PLAIN).stream()
                .map(p -> new CurvePoint(p.frame() + by, p.value(), p.shape()))
                .toList();
        Curve copied = new CurveRange(range.from() + by, range.to() + by).overwritten(curve, moved, Scale.PLAIN);
        for (long frame = range.from(); frame < range.to() - 1; frame += 3) {
            assertThat(copied.at(frame + by)).isCloseTo(curve.at(frame), within(1e-9));
        }
    }

    @Property(tries = 200)
    void a_sum_is_the_sum_at_every_frame(@ForAll @LongRange(min = 0, max = 1_000_000) long seed) {
        SplittableRandom random = new SplittableRandom(seed);
        Curve one = random(random, 3);
        Curve other = random(random, 3);
        Curve sum = one.plus(other);
        for (long frame = 0; frame < 45_000; frame += 11) {
            double wanted = one.at(frame) + other.at(frame);
            boolean beside = one.at(frame + 1) + other.at(frame + 1)
                    != one.before(frame + 1, Scale.PLAIN) + other.before(frame + 1, Scale.PLAIN);
            // Half a cosine followed by lines of 10 ms, of 40 dB at most within a few frames.
            double slack = beside ? 40 : 0.5 * steepness(one, frame) + 0.5 * steepness(other, frame) + 1e-9;
            assertThat(sum.at(frame)).as("frame %d", frame).isCloseTo(wanted, within(slack));
        }
    }

    /** How far a smooth segment bends within the lines that follow it, in dB. */
    private static double steepness(Curve curve, long frame) {
        for (int i = 0; i + 1 < curve.points().size(); i++) {
            CurvePoint from = curve.points().get(i);
            CurvePoint to = curve.points().get(i + 1);
            if (from.shape() == CurvePoint.Shape.SMOOTH && frame >= from.frame() && frame < to.frame()) {
                double angle = Math.PI * Math.min(1, 480.0 / (to.frame() - from.frame()));
                // The most that a chord of half a cosine misses: a/2 x angle squared / 8.
                return Math.abs(to.value() - from.value()) / 2 * Math.max(angle * angle / 4, 1e-12);
            }
        }
        return 0;
    }
}
