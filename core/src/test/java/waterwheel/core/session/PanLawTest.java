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
    private static double left(PanLaw law, double position) {
        return Placement.CENTRE.withPosition(position).gains(law, 1)[0][0];
    }

    private static double right(PanLaw law, double position) {
        return Placement.CENTRE.withPosition(position).gains(law, 1)[1][0];
    }

    @ParameterizedTest
    @CsvSource({"ZERO, 0", "MINUS_2_5, -2.50", "MINUS_3, -3.0103", "MINUS_4_5, -4.5154", "MINUS_6, -6.0206"})
    void each_side_of_a_centred_source_is_turned_down_by_the_law(PanLaw law, double db) {
        assertThat(20 * Math.log10(left(law, 0))).as("left").isCloseTo(db, within(0.001));
        assertThat(20 * Math.log10(right(law, 0))).as("right").isCloseTo(db, within(0.001));
    }

    @ParameterizedTest
    @EnumSource
    void hard_sides_are_at_0_dB_and_their_far_sides_are_silent(PanLaw law) {
        assertThat(left(law, -1)).isEqualTo(1);
        assertThat(right(law, -1)).isZero();
        assertThat(left(law, 1)).isZero();
        assertThat(right(law, 1)).isEqualTo(1);
    }

    @Property
    boolean constant_power_keeps_the_power(@ForAll @DoubleRange(min = -1, max = 1) double position) {
        double left = left(PanLaw.MINUS_3, position);
        double right = right(PanLaw.MINUS_3, position);
        return Math.abs(left * left + right * right - 1) < 1e-12;
    }

    @Property
    boolean left_and_right_mirror_each_other(
            @ForAll PanLaw law, @ForAll @DoubleRange(min = -1, max = 1) double position) {
        return left(law, position) == right(law, -position);
    }

    @Property
    void gains_are_a_power_of_the_angles_cosine(
            @ForAll PanLaw law, @ForAll @DoubleRange(min = -1, max = 1) double position) {
        double angle = (position + 1) * Math.PI / 4;
        double wanted =
                switch (law) {
                    case ZERO -> position <= 0 ? 1 : Math.cos(position * Math.PI / 2);
                    case MINUS_2_5 -> Math.pow(Math.cos(angle), 2.5 / (10 * Math.log10(2)));
                    case MINUS_3 -> Math.cos(angle);
                    case MINUS_4_5 -> Math.pow(Math.cos(angle), 1.5);
                    case MINUS_6 -> Math.pow(Math.cos(angle), 2);
                };
        // Near the hard side the law with 2.5 dB falls so steeply that 4e-15 of a cosine are more of the gain.
        assertThat(left(law, position)).isCloseTo(wanted, within(1e-12));
    }
}
