package waterwheel.core.processing;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatIllegalArgumentException;
import static org.assertj.core.api.Assertions.within;

import org.assertj.core.data.Percentage;
import org.junit.jupiter.api.DisplayNameGeneration;
import org.junit.jupiter.api.DisplayNameGenerator;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;
import waterwheel.core.inserts.Insert;
import waterwheel.core.inserts.Processor;
import waterwheel.core.inserts.SlotId;

/** What is drawn of echoes and reverbs is what they do. */
@DisplayNameGeneration(DisplayNameGenerator.ReplaceUnderscores.class)
class TimeCurveTest {
    private static final int RATE = 48_000;

    private static float[] run(Processor settings, float[] signal) {
        Insert insert = Insert.of(new SlotId("1"), settings.kind()).withProcessor(settings);
        Effect effect = Effects.start(insert, new Site(RATE, 2, signal.length, null));
        float[][] planes = {signal, signal.clone()};
        effect.process(planes, null, signal.length);
        return planes[0];
    }

    @Test
    void echoes_lose_what_the_feedback_takes_until_they_are_gone() {
        Processor delay = Processor.usual(Delay.KIND)
                .with("timeMs", 250)
                .with("feedbackPercent", 10)
                .with("dampingHz", 20_000);
        assertThat(TimeCurve.echoes(delay)).extracting(TimeCurve.Echo::seconds).containsExactly(0.25, 0.5, 0.75);
        assertThat(TimeCurve.echoes(delay).get(1).db()).isCloseTo(-20, within(1e-9));
        assertThat(TimeCurve.lastingSeconds(delay)).isEqualTo(0.75);
        assertThat(TimeCurve.echoes(delay.with("feedbackPercent", 0))).hasSize(1);
    }

    @Test
    void echoes_stand_where_and_as_high_as_they_sound() {
        Processor delay = Processor.usual(Delay.KIND)
                .with("timeMs", 100)
                .with("feedbackPercent", 50)
                .with("dampingHz", 5_000);
        // A burst of 100 Hz, which the damping leaves alone.
        float[] burst = new float[RATE / 2];
        for (int i = 0; i < 2_400; i++) {
            burst[i] = (float) Math.sin(2 * Math.PI * 100 * i / RATE);
        }
        float[] out = run(delay, burst);
        for (TimeCurve.Echo echo : TimeCurve.echoes(delay).subList(0, 4)) {
            int from = (int) Math.round(echo.seconds() * RATE);
            float most = 0;
            for (int i = from; i < from + 2_400; i++) {
                most = Math.max(most, Math.abs(out[i]));
            }
            assertThat(20 * Math.log10(most)).isCloseTo(echo.db(), within(0.1));
        }
    }

    /** Many tones close by, in which the tail's own beating evens out, sound until the tail stands, and end. */
    @ParameterizedTest
    @CsvSource({"2, 60, 6000, 250", "2, 60, 6000, 4000", "1.2, 100, 3000, 2000", "3, 30, 8000, 1000"})
    void a_tail_falls_as_fast_as_it_is_drawn(double decay, double size, double damping, double hertz) {
        Processor reverb = Processor.usual(Reverb.KIND)
                .with("decaySeconds", decay)
                .with("sizePercent", size)
                .with("dampingHz", damping)
                .with("preDelayMs", 0);
        double drawn = TimeCurve.decayDbPerSecond(reverb, hertz, RATE);
        float[] signal = new float[3 * RATE];
        for (int tone = -40; tone <= 40; tone++) {
            double w = 2 * Math.PI * hertz * (1 + tone * 0.002) / RATE;
            for (int i = 0; i < RATE; i++) {
                signal[i] += (float) (0.02 * Math.sin(w * i + tone * tone));
            }
        }
        float[] out = run(reverb, signal);
        // From just behind the cut until it has fallen by 30 dB.
        int from = RATE + RATE / 10;
        int span = (int) (30 / drawn * RATE);
        double fallen = levelDb(out, from, RATE / 10) - levelDb(out, from + span, RATE / 10);
        assertThat(fallen / 30 * drawn).isCloseTo(drawn, Percentage.withPercentage(15));
    }

    private static double levelDb(float[] signal, int from, int frames) {
        double sum = 0;
        for (int i = from; i < from + frames; i++) {
            sum += (double) signal[i] * signal[i];
        }
        return 10 * Math.log10(sum / frames);
    }

    @Test
    void a_tail_begins_behind_the_pre_delay_and_is_gone_after_the_decay_time() {
        Processor reverb =
                Processor.usual(Reverb.KIND).with("decaySeconds", 1.5).with("preDelayMs", 40);
        assertThat(TimeCurve.tailDb(reverb, 0.039, 0, RATE)).isEqualTo(Double.NEGATIVE_INFINITY);
        assertThat(TimeCurve.tailDb(reverb, 0.04, 0, RATE)).isCloseTo(0, within(1e-9));
        assertThat(TimeCurve.lastingSeconds(reverb)).isEqualTo(1.54);
        assertThat(TimeCurve.tailDb(reverb, 1.54, 0, RATE)).isCloseTo(-60, within(1e-9));
        assertThat(TimeCurve.tailDb(reverb, 1, 6_000, RATE)).isLessThan(TimeCurve.tailDb(reverb, 1, 100, RATE));
    }

    @Test
    void other_processors_have_no_such_curve() {
        assertThatIllegalArgumentException()
                .isThrownBy(() -> TimeCurve.echoes(Processor.usual(Gate.KIND)))
                .withMessageContaining("Delay");
    }
}
