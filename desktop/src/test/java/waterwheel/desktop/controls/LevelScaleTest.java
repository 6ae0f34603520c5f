package waterwheel.desktop.controls;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.within;

import net.jqwik.api.ForAll;
import net.jqwik.api.Property;
import net.jqwik.api.constraints.DoubleRange;
import org.junit.jupiter.api.DisplayNameGeneration;
import org.junit.jupiter.api.DisplayNameGenerator;
import org.junit.jupiter.api.Test;

@DisplayNameGeneration(DisplayNameGenerator.ReplaceUnderscores.class)
class LevelScaleTest {
    @Test
    void a_scale_of_720_pixels_has_ten_for_each_of_its_72_dB() {
        assertThat(LevelScale.x(-60, 720)).isZero();
        assertThat(LevelScale.x(-18, 720)).isEqualTo(420);
        assertThat(LevelScale.x(0, 720)).isEqualTo(600);
        assertThat(LevelScale.x(12, 720)).isEqualTo(720);
    }

    @Test
    void silence_and_levels_beyond_stand_at_the_ends() {
        assertThat(LevelScale.x(Double.NEGATIVE_INFINITY, 300)).isZero();
        assertThat(LevelScale.x(40, 300)).isEqualTo(300);
    }

    @Property
    void a_drag_by_some_pixels_moves_the_mark_by_as_many(
            @ForAll @DoubleRange(min = -50, max = 0) double db, @ForAll @DoubleRange(min = 0, max = 60) double pixels) {
        double moved = LevelScale.x(db + LevelScale.dbOf(pixels, 400), 400);
        assertThat(moved).isCloseTo(LevelScale.x(db, 400) + pixels, within(1e-9));
    }
}
