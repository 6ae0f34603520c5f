package waterwheel.core.engine;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.within;

import java.nio.file.Path;
import java.util.Arrays;
import java.util.BitSet;
import java.util.List;
import java.util.function.UnaryOperator;
import org.junit.jupiter.api.DisplayNameGeneration;
import org.junit.jupiter.api.DisplayNameGenerator;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.ValueSource;
import waterwheel.core.rides.Curve;
import waterwheel.core.rides.CurvePoint;
import waterwheel.core.rides.CurvePoint.Shape;
import waterwheel.core.session.Clip;
import waterwheel.core.session.Session;
import waterwheel.core.session.Track;
import waterwheel.core.testing.Sessions;
import waterwheel.core.work.Team;

@DisplayNameGeneration(DisplayNameGenerator.ReplaceUnderscores.class)
class ClipShapeTest {
    private static final int FRAMES = 9_000;
    private static final Curve CURVE = new Curve(List.of(
            new CurvePoint(1_000, 0, Shape.LINE),
            new CurvePoint(3_400, -12, Shape.SMOOTH),
            new CurvePoint(5_800, 6, Shape.HOLD),
            new CurvePoint(7_000, -3, Shape.LINE)));

    @TempDir
    Path folder;

    /** A track of ones, whose signal therefore is the gain. */
    private Session ones(UnaryOperator<Clip> change) throws Exception {
        float[] ones = new float[FRAMES];
        Arrays.fill(ones, 1);
        Session session = new Sessions(folder).track("ones", "main", ones, ones).build();
        return session.withChannel(Sessions.id("ones"), c -> ((Track) c)
                .withClips(List.of(change.apply(((Track) c).clips().getFirst()))));
    }

    private float[] mix(Session session, int block) {
        Plan plan = PlanCompiler.compile(session);
        BitSet wanted = new BitSet();
        wanted.set(plan.output());
        float[] out = new float[(int) plan.lengthFrames()];
        try (Media media = Media.open(session, folder);
                Team team = new Team(1)) {
            PlanRun run = PlanRun.of(plan, media, team, block, wanted);
            for (int at = 0; at < out.length; at += block) {
                int count = Math.min(block, out.length - at);
                run.process(at, count);
                System.arraycopy(run.signal(plan.output())[1], 0, out, at, count);
            }
        }
        return out;
    }

    private static double db(float gain) {
        return 20 * Math.log10(gain);
    }

    @Test
    void a_line_is_straight_in_dB_within_a_hundredth() throws Exception {
        float[] gain = mix(ones(c -> c.withGainCurve(CURVE)), 512);
        // From the first reading on the line to the last one on it; the bends themselves are rounded off.
        for (int i = 1_024; i <= 3_392; i++) {
            assertThat(db(gain[i])).isCloseTo(-12 * (i - 1_000) / 2_400.0, within(0.01));
        }
    }

    @Test
    void the_curve_has_its_points_and_stays_at_its_ends() throws Exception {
        float[] gain = mix(ones(c -> c.withGainCurve(CURVE)), 512);
        assertThat(gain[0]).isEqualTo(1);
        // Half way along half a cosine lies the mean of its ends.
        assertThat(db(gain[4_600])).isCloseTo(-3, within(0.02));
        assertThat(db(gain[6_900])).isCloseTo(6, within(1e-4));
        assertThat(db(gain[8_999])).isCloseTo(-3, within(1e-4));
    }

    @Test
    void no_gain_is_ever_stepped() throws Exception {
        float[] gain = mix(ones(c -> c.withGainCurve(CURVE)), 512);
        // The hardest change, 9 dB at once, takes 32 frames: no frame moves by more than a 32nd of it.
        double most = (Math.pow(10, 6 / 20.0) - Math.pow(10, -3 / 20.0)) / 32;
        for (int i = 1; i < FRAMES; i++) {
            assertThat(Math.abs(gain[i] - gain[i - 1])).isLessThanOrEqualTo((float) most + 1e-6f);
        }
    }

    @Test
    void fades_are_quarter_sines_and_keep_the_power_where_they_cross_however_short_they_are() throws Exception {
        float[] gain = mix(ones(c -> c.withFades(1_001, 2_001)), 512);
        // Half a frame into a fade of 1,001 and half a frame before the end of one of 2,001.
        assertThat((double) gain[0]).isCloseTo(Math.sin(Math.PI / 4 / 1_001), within(1e-7));
        assertThat(gain[1_001]).isEqualTo(1);
        assertThat((double) gain[FRAMES - 1]).isCloseTo(Math.sin(Math.PI / 4 / 2_001), within(1e-7));
        for (int length : new int[] {1, 2, 3, 48, 2_000}) {
            float[] in = mix(ones(c -> c.withFades(length, 0)), 512);
            float[] out = mix(ones(c -> c.withFades(0, length)), 512);
            for (int i = 0; i < length; i++) {
                double power = Math.pow(in[i], 2) + Math.pow(out[FRAMES - length + i], 2);
                assertThat(power).as("%d of %d", i, length).isCloseTo(1, within(1e-6));
            }
        }
    }

    @Test
    void gain_curve_and_fades_multiply() throws Exception {
        Session plain = ones(c -> c.withGainDb(-6).withGainCurve(CURVE).withFades(300, 400));
        float[] gain = mix(plain, 512);
        float[] curve = mix(ones(c -> c.withGainCurve(CURVE)), 512);
        float[] fades = mix(ones(c -> c.withFades(300, 400)), 512);
        for (int i = 0; i < FRAMES; i++) {
            assertThat((double) gain[i]).isCloseTo(Math.pow(10, -6 / 20.0) * curve[i] * fades[i], within(1e-6));
        }
    }

    @ParameterizedTest
    @ValueSource(ints = {1, 31, 64, 480, 1_024})
    void the_block_size_changes_no_bit(int block) throws Exception {
        Session session = ones(c -> c.withGainCurve(CURVE).withFades(300, 400));
        assertThat(mix(session, block)).isEqualTo(mix(session, 4_096));
    }

    @Test
    void a_gain_that_all_clips_share_sounds_the_same_as_one_that_they_do_not() throws Exception {
        Session whole = ones(c -> c.withGainDb(-7.3));
        Session halves = whole.withChannel(Sessions.id("ones"), c -> ((Track) c)
                .withClips(List.of(
                        new Clip(((Track) c).clips().getFirst().source(), 0, 0, 4_000, -7.3),
                        new Clip(((Track) c).clips().getFirst().source(), 4_000, 4_000, 5_000, -7.2999))));
        float[] one = mix(whole, 512);
        float[] two = mix(halves, 512);
        assertThat(one[10]).isEqualTo(two[10]);
        assertThat(db(one[10])).isCloseTo(-7.3, within(1e-5));
        assertThat(db(two[5_000])).isCloseTo(-7.2999, within(1e-5));
    }
}
