package waterwheel.core.session;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatIllegalArgumentException;
import static org.assertj.core.api.Assertions.within;

import org.junit.jupiter.api.DisplayNameGeneration;
import org.junit.jupiter.api.DisplayNameGenerator;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.EnumSource;

@DisplayNameGeneration(DisplayNameGenerator.ReplaceUnderscores.class)
class PlacementTest {
    @ParameterizedTest
    @EnumSource
    void a_stereo_channel_in_the_centre_at_full_width_passes_unchanged(PanLaw law) {
        assertThat(Placement.CENTRE.gains(law, 2)).isDeepEqualTo(new double[][] {{1, 0}, {0, 1}});
    }

    @Test
    void placed_hard_right_both_sides_sound_from_the_right_and_nothing_is_lost() {
        double[][] gains = Placement.CENTRE.withPosition(1).gains(PanLaw.MINUS_3, 2);
        // The left plane stands at clamp(1 - 1) = 0, the centre; the right one at clamp(1 + 1) = 1.
        assertThat(gains[1][1]).as("right to right").isEqualTo(1);
        assertThat(gains[1][0]).as("left to right").isCloseTo(Math.sqrt(0.5), within(1e-12));
    }

    @Test
    void width_0_puts_both_planes_in_one_place() {
        double[][] gains = new Placement(0.5, 0, Placement.Mode.PLACE).gains(PanLaw.MINUS_3, 2);
        assertThat(gains[0][0]).isEqualTo(gains[0][1]);
        assertThat(gains[1][0]).isEqualTo(gains[1][1]);
    }

    @Test
    void balance_turns_the_far_side_down_and_leaves_the_near_side_alone() {
        double[][] gains = new Placement(0.5, 1, Placement.Mode.BALANCE).gains(PanLaw.MINUS_6, 2);
        assertThat(gains[0][0]).as("far side").isCloseTo(Math.cos(Math.PI / 4), within(1e-12));
        assertThat(gains[1][1]).as("near side").isEqualTo(1);
        assertThat(gains[0][1]).isZero();
        assertThat(gains[1][0]).isZero();
    }

    @Test
    void width_2_doubles_the_side_signal_and_keeps_the_middle() {
        double[][] gains = Placement.CENTRE.withWidth(2).gains(PanLaw.MINUS_3, 2);
        // A middle signal (1, 1) stays; a side signal (1, -1) becomes (2, -2).
        assertThat(gains[0][0] + gains[0][1]).as("middle").isCloseTo(1, within(1e-12));
        assertThat(gains[0][0] - gains[0][1]).as("side").isCloseTo(2, within(1e-12));
    }

    @Test
    void values_outside_the_range_are_a_mistake() {
        assertThatIllegalArgumentException()
                .isThrownBy(() -> Placement.CENTRE.withPosition(1.01))
                .withMessageContaining("position");
        assertThatIllegalArgumentException().isThrownBy(() -> Placement.CENTRE.withWidth(Double.NaN));
    }
}
