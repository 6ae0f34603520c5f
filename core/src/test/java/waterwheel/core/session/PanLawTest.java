package waterwheel.core.session;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.within;

import net.jqwik.api.ForAll;
import net.jqwik.api.Property;
import net.jqwik.api.constraints.DoubleRange;
import org.junit.jupiter.api.DisplayNameGeneration;
import org.junit.jupiter.api.DisplayNameGenerator;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;
import org.junit.jupiter.params.provider.EnumSource;

@DisplayNameGeneration(DisplayNameGenerator.ReplaceUnderscores.class)
class PanLawTest {
    @ParameterizedTest
    @CsvSource({"ZERO, 0", "MINUS_2_5, -2.50", "MINUS_3, -3.0103", "MINUS_4_5, -4.5154", "MINUS_6, -6.0206"})
    void each_side_of_a_centred_source_is_turned_down_by_the_law(PanLaw law, double db) {
        assertThat(20 * Math.log10(law.left(0))).as("left").isCloseTo(db, within(0.001));
        assertThat(20 * Math.log10(law.right(0))).as("right").isCloseTo(db, within(0.001));
    }

    @ParameterizedTest
    @EnumSource
    void hard_sides_are_at_0_dB_and_their_far_sides_are_silent(PanLaw law) {
        assertThat(law.left(-1)).isEqualTo(1);
        assertThat(law.right(-1)).isZero();
        assertThat(law.left(1)).isZero();
        assertThat(law.right(1)).isEqualTo(1);
    }

    @Property
    boolean constant_power_keeps_the_power(@ForAll @DoubleRange(min = -1, max = 1) double position) {
        double left = PanLaw.MINUS_3.left(position);
        double right = PanLaw.MINUS_3.right(position);
        return Math.abs(left * left + right * right - 1) < 1e-12;
    }

    @Property
    boolean left_and_right_mirror_each_other(
            @ForAll PanLaw law, @ForAll @DoubleRange(min = -1, max = 1) double position) {
        return law.left(position) == law.right(-position);
    }
}
