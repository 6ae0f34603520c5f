package waterwheel.core.engine;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.within;

import java.nio.file.Path;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.List;
import org.junit.jupiter.api.DisplayNameGeneration;
import org.junit.jupiter.api.DisplayNameGenerator;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;
import org.junit.jupiter.params.provider.MethodSource;
import org.junit.jupiter.params.provider.ValueSource;
import waterwheel.core.inserts.Insert;
import waterwheel.core.inserts.Processor;
import waterwheel.core.inserts.ProcessorKind;
import waterwheel.core.inserts.SlotId;
import waterwheel.core.processing.Gate;
import waterwheel.core.processing.Limiter;
import waterwheel.core.processing.TestTone;
import waterwheel.core.session.ChannelId;
import waterwheel.core.session.Session;
import waterwheel.core.testing.Renders;
import waterwheel.core.testing.Sessions;
import waterwheel.core.testing.Signals;

/** Processors begin with the song and follow its time, however late what is before them makes them. */
@DisplayNameGeneration(DisplayNameGenerator.ReplaceUnderscores.class)
class SongTimeTest {
    private static final int FRAMES = 24_000;
    private static final ChannelId ONE = Sessions.id("one");
    private static final ChannelId TWO = Sessions.id("two");

    @TempDir
    Path folder;

    private Session two(float[] signal) throws Exception {
        return new Sessions(folder)
                .track("one", "main", signal, signal)
                .track("two", "main", signal, signal)
                .build();
    }

    private static Session inserted(Session session, ChannelId id, Processor... processors) {
        List<Insert> inserts = new ArrayList<>();
        for (int i = 0; i < processors.length; i++) {
            inserts.add(new Insert(new SlotId("" + i), processors[i], false, 0, 0, 1));
        }
        return session.withStrip(id, strip -> strip.withInserts(inserts));
    }

    /** A limiter that has nothing to do only makes late. */
    private static Processor late() {
        return Processor.usual(Limiter.KIND).with("ceilingDb", 0);
    }

    private static Processor tone(int signal) {
        return Processor.usual(TestTone.KIND).with("signal", signal).with("levelDb", -12);
    }

    private static double loudest(float[][] signal) {
        double most = 0;
        for (float[] plane : signal) {
            for (float sample : plane) {
                most = Math.max(most, Math.abs(sample));
            }
        }
        return most;
    }

    @ParameterizedTest
    @CsvSource({"0, 1", "1, 512", "2, 64", "0, 480", "2, 4096"})
    void a_test_signal_behind_something_late_is_in_time_with_one_that_is_not(int signal, int block) throws Exception {
        Session session = inserted(inserted(two(new float[FRAMES]), ONE, late(), tone(signal)), TWO, tone(signal));
        Renders renders = new Renders(folder, 1, block);
        float[][] both = renders.mix(session);
        float[][] alone = renders.mix(session.withStrip(ONE, s -> s.withMuted(true)));
        for (int p = 0; p < 2; p++) {
            for (int i = 0; i < FRAMES; i++) {
                assertThat((double) both[p][i]).as("%d", i).isCloseTo(2.0 * alone[p][i], within(1e-6));
            }
        }
        assertThat(loudest(alone)).isGreaterThan(0.1);
    }

    @ParameterizedTest
    @ValueSource(ints = {1, 2})
    void noise_is_another_one_on_each_side_and_as_loud_as_it_says(int signal) throws Exception {
        float[][] noise = new Renders(folder).mix(inserted(two(new float[4 * FRAMES]), ONE, tone(signal)));
        double left = 0;
        double right = 0;
        double both = 0;
        for (int i = 0; i < noise[0].length; i++) {
            left += noise[0][i] * noise[0][i];
            right += noise[1][i] * noise[1][i];
            both += noise[0][i] * noise[1][i];
        }
        assertThat(both / Math.sqrt(left * right)).isCloseTo(0, within(0.05));
        // A sine of -12 dBFS has this mean square; AES17.
        double wanted = Math.pow(10, -12 / 10.0) / 2;
        assertThat(10 * Math.log10(left / noise[0].length / wanted)).isCloseTo(0, within(0.5));
        assertThat(10 * Math.log10(right / noise[0].length / wanted)).isCloseTo(0, within(0.5));
    }

    /** Every processor, straight and behind something late: the same samples to the last bit. */
    @ParameterizedTest
    @MethodSource("waterwheel.core.processing.Processors#kinds")
    void what_is_late_before_a_processor_changes_nothing_of_what_it_does(ProcessorKind kind) throws Exception {
        float[] loudFromTheStart = Signals.noise(0.4, FRAMES, 7);
        Session plain = two(loudFromTheStart).withStrip(TWO, strip -> strip.withMuted(true));
        Processor processor = Processor.usual(kind);
        float[][] straight = new Renders(folder).mix(inserted(plain, ONE, processor));
        for (int block : new int[] {1, 31, 512}) {
            float[][] behind = new Renders(folder, 2, block).mix(inserted(plain, ONE, late(), processor));
            for (int p = 0; p < 2; p++) {
                assertThat(behind[p]).as("side %d in blocks of %d", p, block).isEqualTo(straight[p]);
            }
        }
    }

    @Test
    void a_gate_stands_closed_before_the_song_begins() throws Exception {
        Processor gate = Processor.usual(Gate.KIND)
                .with("thresholdDb", -40)
                .with("rangeDb", 60)
                .with("ratio", 10)
                .with("attackMs", 10);
        float[] constant = new float[FRAMES];
        Arrays.fill(constant, 0.5f);
        float[][] opened = new Renders(folder)
                .mix(inserted(two(constant), ONE, gate).withStrip(TWO, strip -> strip.withMuted(true)));
        // It opens from 60 dB down: after one time constant of 10 ms, 37 % of that are left.
        assertThat(20 * Math.log10(opened[0][0] / 0.5)).isCloseTo(-60, within(0.5));
        assertThat(20 * Math.log10(opened[0][480] / 0.5)).isCloseTo(-60 / Math.E, within(0.5));
        assertThat(20 * Math.log10(opened[0][4_800] / 0.5)).isCloseTo(0, within(0.01));
    }
}
