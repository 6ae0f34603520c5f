package waterwheel.core.engine;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.within;

import java.nio.file.Path;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.List;
import java.util.Optional;
import org.junit.jupiter.api.DisplayNameGeneration;
import org.junit.jupiter.api.DisplayNameGenerator;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;
import org.junit.jupiter.params.provider.EnumSource;
import org.junit.jupiter.params.provider.ValueSource;
import waterwheel.core.audiofile.SampleEncoding;
import waterwheel.core.inserts.Insert;
import waterwheel.core.inserts.Processor;
import waterwheel.core.inserts.SlotId;
import waterwheel.core.path.Stage;
import waterwheel.core.processing.Compressor;
import waterwheel.core.processing.Convolution;
import waterwheel.core.session.ChannelId;
import waterwheel.core.session.Clip;
import waterwheel.core.session.Placement;
import waterwheel.core.session.Send;
import waterwheel.core.session.Session;
import waterwheel.core.session.Track;
import waterwheel.core.sources.AudioSource;
import waterwheel.core.sources.SourceId;
import waterwheel.core.testing.Renders;
import waterwheel.core.testing.Sessions;
import waterwheel.core.testing.Signals;

/** Where stereo meets mono, both sides count. */
@DisplayNameGeneration(DisplayNameGenerator.ReplaceUnderscores.class)
class SidesTest {
    private static final int FRAMES = 12_000;
    private static final ChannelId ONE = Sessions.id("one");
    private static final ChannelId KEY = Sessions.id("key");
    private static final SlotId SLOT = new SlotId("1");

    @TempDir
    Path folder;

    private final float[] left = Signals.noise(0.3, FRAMES, 1);
    private final float[] right = Signals.noise(0.3, FRAMES, 2);

    private float[] source(Session session, ChannelId id, int plane) {
        Plan plan = PlanCompiler.compile(session);
        return new Renders(folder).signal(session, plan, plan.first(id))[plane];
    }

    @ParameterizedTest
    @EnumSource(Clip.Side.class)
    void a_stereo_file_on_a_mono_track_is_half_its_sum_or_the_side_that_was_chosen(Clip.Side side) throws Exception {
        Session session = new Sessions(folder)
                .track("one", "main", left, right)
                .build()
                .withChannel(ONE, c -> ((Track) c)
                        .withPlanes(1)
                        .withClips(List.of(
                                ((Track) c).clips().getFirst().withSide(side).withFades(100, 50))));
        float[] mono = source(session, ONE, 0);
        for (int i = 100; i < FRAMES - 50; i++) {
            float expected =
                    switch (side) {
                        case BOTH -> (left[i] + right[i]) / 2;
                        case LEFT -> left[i];
                        case RIGHT -> right[i];
                    };
            assertThat((double) mono[i]).as("%d", i).isCloseTo(expected, within(1e-7));
        }
    }

    @Test
    void one_side_on_a_stereo_track_sounds_on_both() throws Exception {
        Session session = new Sessions(folder)
                .track("one", "main", left, right)
                .build()
                .withChannel(ONE, c -> ((Track) c)
                        .withClips(List.of(((Track) c).clips().getFirst().withSide(Clip.Side.RIGHT))));
        assertThat(source(session, ONE, 0)).isEqualTo(right);
        assertThat(source(session, ONE, 1)).isEqualTo(right);
    }

    /** A key that is placed hard to either side turns a mono track down alike. */
    @ParameterizedTest
    @ValueSource(doubles = {-1, 1, -0.3, 0.3})
    void a_mono_track_hears_both_sides_of_its_key(double position) throws Exception {
        float[] ones = new float[FRAMES];
        Arrays.fill(ones, 0.5f);
        Insert compressor = new Insert(
                SLOT,
                Processor.usual(Compressor.KIND)
                        .with("thresholdDb", -30)
                        .with("ratio", 2)
                        .with("kneeDb", 0)
                        .with("attackMs", 1),
                false,
                0,
                0,
                1);
        Session session = new Sessions(folder)
                .track("one", "main", Signals.sine(100, -20, 48_000, 0.25))
                .track("key", "main", ones)
                .build()
                .withStrip(ONE, s -> s.withInserts(List.of(compressor)))
                .withStrip(KEY, s -> s.withMuted(true)
                        .withSends(List.of(Send.toKey(ONE, SLOT)
                                .withPlacement(Optional.of(Placement.CENTRE.withPosition(position))))));
        double angle = (position + 1) * Math.PI / 4;
        double heardDb = 20 * Math.log10(0.5 * (Math.cos(angle) + Math.sin(angle)) / 2);
        Plan plan = PlanCompiler.compile(session);
        float[] out = new Renders(folder)
                .signal(
                        session,
                        plan,
                        plan.stage(ONE, Stage.FADER, "").orElseThrow().edge().from())[0];
        float[] in = source(session, ONE, 0);
        int settled = 11_000;
        double gainDb = 20 * Math.log10(out[settled + 120] / in[settled + 120]);
        assertThat(gainDb).isCloseTo(-(heardDb + 30) / 2, within(0.05));
    }

    /** Noise through a response comes out as loud as it went in, whatever its sides are, on mono and stereo tracks. */
    @ParameterizedTest
    @CsvSource({"1, 1, 1", "1, 0.1, 1", "0.1, 1, 1", "1, 0, 1", "0, 1, 1", "1, -0.5, 1", "1, 1, 2", "1, 1, 2"})
    void a_response_is_as_loud_as_its_own_power_says(double leftGain, double rightGain, int planes) throws Exception {
        float[] one = Signals.noise(1, 2_000, 8);
        float[] other = Signals.noise(1, 2_000, 9);
        for (int i = 0; i < one.length; i++) {
            one[i] *= (float) (leftGain * Math.exp(-i / 500.0));
            other[i] *= (float) (rightGain * Math.exp(-i / 500.0));
        }
        float[] noise = Signals.noise(0.3, 96_000, 3);
        Session session = planes == 1
                ? new Sessions(folder).track("one", "main", noise).build()
                : new Sessions(folder).track("one", "main", noise, noise).build();
        Signals.wav(folder.resolve("room.wav"), 48_000, SampleEncoding.FLOAT_32, one, other);
        SourceId room = new SourceId("room");
        List<AudioSource> sources = new ArrayList<>(session.sources());
        sources.add(new AudioSource(room, "room.wav", one.length, 2, 48_000, "float 32-bit"));
        Session with = session.withSources(sources)
                .withStrip(
                        ONE,
                        s -> s.withInserts(List.of(new Insert(
                                SLOT, Processor.usual(Convolution.KIND).withResponse(room), false, 0, 0, 1))));
        Plan plan = PlanCompiler.compile(with);
        float[][] out = new Renders(folder)
                .signal(
                        with,
                        plan,
                        plan.stage(ONE, Stage.FADER, "").orElseThrow().edge().from());
        double power = 0;
        double before = 0;
        for (int i = 4_000; i < noise.length; i++) {
            for (float[] plane : out) {
                power += plane[i] * plane[i] / planes;
            }
            before += noise[i] * noise[i];
        }
        assertThat(10 * Math.log10(power / before)).isCloseTo(0, within(0.6));
    }
}
