package waterwheel.core.units;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.within;

import net.jqwik.api.ForAll;
import net.jqwik.api.Property;
import net.jqwik.api.constraints.DoubleRange;
import org.junit.jupiter.api.DisplayNameGeneration;
import org.junit.jupiter.api.DisplayNameGenerator;
import org.junit.jupiter.api.Test;

@DisplayNameGeneration(DisplayNameGenerator.ReplaceUnderscores.class)
class FaderTravelTest {
    @Test
    void unity_stands_at_three_quarters_and_the_top_is_plus_12_dB() {
        assertThat(FaderTravel.toDb(0.75)).isZero();
        assertThat(FaderTravel.toDb(1)).isCloseTo(12, within(1e-12));
        assertThat(FaderTravel.toPlace(0)).isCloseTo(0.75, within(1e-12));
    }

    @Test
    void the_lowest_quarter_holds_everything_below_minus_36_dB_down_to_silence() {
        assertThat(FaderTravel.toDb(0.25)).isCloseTo(-36, within(1e-12));
        assertThat(FaderTravel.toDb(0)).isEqualTo(Double.NEGATIVE_INFINITY);
        assertThat(FaderTravel.toPlace(Double.NEGATIVE_INFINITY)).isZero();
    }

    @Test
    void travel_is_finest_around_unity() {
        double atUnity = FaderTravel.dbPerPercent(0);
        for (double db : new double[] {11, 6, -6, -12, -36, -60}) {
            assertThat(FaderTravel.dbPerPercent(db)).as("at %s dB", db).isGreaterThan(atUnity);
        }
    }

    @Property
    boolean place_and_level_are_each_others_inverse(@ForAll @DoubleRange(min = -90, max = 12) double db) {
        return Math.abs(FaderTravel.toDb(FaderTravel.toPlace(db)) - db) < 1e-9;
    }

    @Property
    boolean a_higher_place_is_a_higher_level(
            @ForAll @DoubleRange(min = 0, max = 1) double a, @ForAll @DoubleRange(min = 0, max = 1) double b) {
        return Double.compare(a, b) == 0 || (a < b) == (FaderTravel.toDb(a) < FaderTravel.toDb(b));
    }
}
