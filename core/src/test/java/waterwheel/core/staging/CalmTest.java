package waterwheel.core.staging;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatIllegalArgumentException;
import static org.assertj.core.api.Assertions.within;

import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import java.util.SplittableRandom;
import org.junit.jupiter.api.DisplayNameGeneration;
import org.junit.jupiter.api.DisplayNameGenerator;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import waterwheel.core.levels.SessionMeasurement;
import waterwheel.core.metering.LevelSeries;
import waterwheel.core.rides.Curve;
import waterwheel.core.rides.CurvePoint;
import waterwheel.core.rides.CurveThinning;
import waterwheel.core.session.Clip;
import waterwheel.core.session.Session;
import waterwheel.core.session.Track;
import waterwheel.core.testing.Sessions;
import waterwheel.core.testing.Signals;
import waterwheel.core.work.Progress;

@DisplayNameGeneration(DisplayNameGenerator.ReplaceUnderscores.class)
class CalmTest {
    private static final int RATE = 48_000;

    @TempDir
    Path folder;

    private static float[] tone(double peakDbfs, double seconds) {
        return Signals.sine(440, peakDbfs, RATE, seconds);
    }

    private Curve curve(Calm calm, float[]... phrases) throws Exception {
        Session session = new Sessions(folder)
                .track("voice", "main", Signals.joined(phrases))
                .build();
        Track track = session.tracks().getFirst();
        Clip clip = track.clips().getFirst();
        LevelSeries series =
                SessionMeasurement.of(session, folder, song -> song.clip(session, track, clip, Progress.NONE));
        return calm.curve(series, clip);
    }

    private static double at(Curve curve, double seconds) {
        return curve.at((long) (seconds * RATE));
    }

    @Test
    void phrases_beyond_the_range_come_to_its_end() throws Exception {
        // 20 s at -20 and 5 s each at -12 and -28. Mean power of all: 10 log((20·0.01 + 5·0.0631 + 5·0.00158)/30)
        // = -17.58 dBFS; blocks that cross a change shift it by a few hundredths.
        Curve curve = curve(new Calm(3, 1, 1), tone(-20, 10), tone(-12, 5), tone(-20, 10), tone(-28, 5));
        double average = 10 * Math.log10((20 * 0.01 + 5 * Math.pow(10, -1.2) + 5 * Math.pow(10, -2.8)) / 30);
        // The soft phrase lies 10.4 dB below the average and so within it counts; the loud one 5.6 dB above.
        double gated = 10 * Math.log10((20 * 0.01 + 5 * Math.pow(10, -1.2)) / 25);
        assertThat(at(curve, 5)).isCloseTo(0, within(0.11));
        assertThat(at(curve, 12.5)).isBetween(average + 3 + 12 - 0.15, gated + 3 + 12 + 0.15);
        assertThat(at(curve, 27.5)).isBetween(average - 3 + 28 - 0.15, gated - 3 + 28 + 0.15);
    }

    @Test
    void the_amount_takes_back_a_part_of_the_excess() throws Exception {
        float[][] phrases = {tone(-20, 10), tone(-10, 5), tone(-20, 10)};
        Curve whole = curve(new Calm(3, 1, 1), phrases);
        Curve half = curve(new Calm(3, 0.5, 1), phrases);
        assertThat(at(whole, 12.5)).isLessThan(-2);
        assertThat(at(half, 12.5)).isCloseTo(at(whole, 12.5) / 2, within(0.02));
    }

    @Test
    void an_even_clip_needs_no_curve() throws Exception {
        assertThat(curve(Calm.DEFAULT, tone(-20, 10), tone(-22, 10))).isEqualTo(Curve.NONE);
        assertThat(curve(Calm.DEFAULT, new float[RATE])).isEqualTo(Curve.NONE);
    }

    @Test
    void rests_are_never_raised() throws Exception {
        float[] hiss = Signals.noise(1e-4, 6 * RATE, 3);
        Curve curve = curve(new Calm(2, 1, 0.5), tone(-30, 6), hiss, tone(-18, 6), hiss, tone(-30, 6));
        assertThat(at(curve, 3)).isGreaterThan(3);
        for (double second = 7; second < 11; second += 0.25) {
            assertThat(at(curve, second)).isLessThanOrEqualTo(0.1);
        }
    }

    @Test
    void thinning_keeps_within_its_bound_and_leaves_out_the_rest() {
        SplittableRandom random = new SplittableRandom(5);
        List<CurvePoint> points = new ArrayList<>();
        double value = 0;
        for (int i = 0; i < 2_000; i++) {
            value += random.nextDouble(-0.05, 0.05);
            points.add(new CurvePoint(i * 100L, value, CurvePoint.Shape.LINE));
        }
        Curve thinned = new Curve(CurveThinning.thinned(points, 0.1));
        assertThat(thinned.points()).hasSizeLessThan(700);
        for (CurvePoint point : points) {
            assertThat(thinned.at(point.frame())).isCloseTo(point.value(), within(0.1 + 1e-9));
        }
    }

    @Test
    void settings_out_of_range_are_refused() {
        assertThatIllegalArgumentException()
                .isThrownBy(() -> new Calm(3, 1.1, 1))
                .withMessageContaining("amount");
    }
}
