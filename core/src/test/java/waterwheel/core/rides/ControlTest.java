package waterwheel.core.rides;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.within;

import java.util.List;
import org.junit.jupiter.api.DisplayNameGeneration;
import org.junit.jupiter.api.DisplayNameGenerator;
import org.junit.jupiter.api.Test;

@DisplayNameGeneration(DisplayNameGenerator.ReplaceUnderscores.class)
class ControlTest {
    private static final Control FADER = new Control("f", "Fader", "dB", Control.SILENT_DB, 12, Scale.PLAIN);
    private static final Control TRIM = new Control("t", "Trim", "dB", -48, 48, Scale.PLAIN);
    private static final Control HERTZ = new Control("h", "Hz", "Hz", 20, 20_000, Scale.OCTAVES);
    private static final Control MUTE = new Control("m", "Mute", "", 0, 1, Scale.SWITCH);

    @Test
    void a_place_on_the_travel_comes_back_from_its_value() {
        for (Control control : List.of(FADER, TRIM, HERTZ)) {
            double before = Double.NEGATIVE_INFINITY;
            for (int i = 5; i <= 100; i++) {
                double value = control.toValue(i / 100.0);
                assertThat(value).as("%s at %d", control.key(), i).isGreaterThan(before);
                assertThat(control.toPlace(value)).isCloseTo(i / 100.0, within(1e-9));
                before = value;
            }
            assertThat(control.toValue(1)).isCloseTo(control.most(), within(1e-9));
            assertThat(control.toValue(7)).isCloseTo(control.most(), within(1e-9));
        }
        // Ten octaves of three: the middle is the geometric mean.
        assertThat(HERTZ.toValue(0.5)).isCloseTo(Math.sqrt(20 * 20_000.0), within(1e-6));
        assertThat(TRIM.toValue(0.5)).isZero();
    }

    @Test
    void a_faders_unity_stands_at_three_quarters_and_its_lowest_place_is_silence() {
        assertThat(FADER.toValue(0.75)).isZero();
        assertThat(FADER.toValue(0)).isEqualTo(Double.NEGATIVE_INFINITY);
        assertThat(FADER.limited(FADER.toValue(0))).isEqualTo(-90);
        assertThat(FADER.toPlace(-90)).isCloseTo(0.03, within(0.01));
    }

    @Test
    void a_switch_is_on_from_a_half() {
        assertThat(MUTE.toValue(0.49)).isZero();
        assertThat(MUTE.toValue(0.5)).isEqualTo(1);
        assertThat(MUTE.toPlace(0.7)).isEqualTo(1);
    }
}
