package waterwheel.core.units;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatIllegalArgumentException;

import org.junit.jupiter.api.DisplayNameGeneration;
import org.junit.jupiter.api.DisplayNameGenerator;
import org.junit.jupiter.api.Test;

@DisplayNameGeneration(DisplayNameGenerator.ReplaceUnderscores.class)
class LevelTextTest {
    @Test
    void levels_carry_sign_and_unit() {
        assertThat(LevelText.level(-18, "dBFS")).isEqualTo("−18.0 dBFS");
        assertThat(LevelText.level(7.04, "dBFS")).isEqualTo("+7.0 dBFS");
        assertThat(LevelText.level(Double.NEGATIVE_INFINITY, "dBFS")).isEqualTo("−inf dBFS");
    }

    @Test
    void what_rounds_to_nothing_has_no_sign() {
        assertThat(LevelText.change(-0.04)).isEqualTo("0.0 dB");
        assertThat(LevelText.change(0.06)).isEqualTo("+0.1 dB");
    }

    @Test
    void typed_levels_are_read_with_either_minus_a_comma_or_a_unit() {
        assertThat(LevelText.parse("-3.25")).hasValue(-3.25);
        assertThat(LevelText.parse("−3,5 dB")).hasValue(-3.5);
        assertThat(LevelText.parse("+2 dBFS")).hasValue(2);
        assertThat(LevelText.parse("-inf")).hasValue(Double.NEGATIVE_INFINITY);
    }

    @Test
    void what_is_no_number_is_refused() {
        assertThat(LevelText.parse("loud")).isEmpty();
        assertThat(LevelText.parse("")).isEmpty();
        assertThat(LevelText.parse("1e3")).isEmpty();
        assertThat(LevelText.parse("NaN")).isEmpty();
    }

    @Test
    void places_in_the_song_read_as_minutes_and_seconds() {
        assertThat(LevelText.time(67.34)).isEqualTo("1:07.3");
        assertThat(LevelText.time(59.96)).isEqualTo("1:00.0");
    }

    @Test
    void a_gain_that_is_not_a_number_is_a_mistake() {
        assertThatIllegalArgumentException().isThrownBy(() -> Decibels.toFactor(Double.NaN));
    }
}
