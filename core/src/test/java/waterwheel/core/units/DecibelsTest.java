package waterwheel.core.units;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatIllegalArgumentException;
import static org.assertj.core.api.Assertions.within;

import java.util.List;
import net.jqwik.api.ForAll;
import net.jqwik.api.Property;
import net.jqwik.api.constraints.DoubleRange;
import net.jqwik.api.constraints.Size;
import org.junit.jupiter.api.DisplayNameGeneration;
import org.junit.jupiter.api.DisplayNameGenerator;
import org.junit.jupiter.api.Test;

@DisplayNameGeneration(DisplayNameGenerator.ReplaceUnderscores.class)
class DecibelsTest {
    @Test
    void twenty_decibels_are_ten_times_the_amplitude() {
        assertThat(Decibels.toFactor(20)).isCloseTo(10, within(1e-14));
        assertThat(Decibels.toFactor(-20)).isCloseTo(0.1, within(1e-16));
        assertThat(Decibels.toFactor(0)).isEqualTo(1);
        assertThat(Decibels.toFactor(Double.NEGATIVE_INFINITY)).isZero();
        assertThatIllegalArgumentException().isThrownBy(() -> Decibels.toFactor(Double.NaN));
    }

    @Property
    void many_factors_at_a_time_are_the_same_as_each(
            @ForAll @Size(max = 40) List<@DoubleRange(min = -100, max = 100) Double> gains) {
        double[] db = gains.stream().mapToDouble(Double::doubleValue).toArray();
        double[] factors = new double[db.length];
        Decibels.toFactors(db, db.length, factors);
        for (int i = 0; i < db.length; i++) {
            double wanted = Math.pow(10, db[i] / 20);
            assertThat(factors[i]).as("%s dB", db[i]).isCloseTo(wanted, within(1e-12 * wanted));
        }
    }

    @Test
    void no_gain_is_exactly_1_among_many() {
        double[] factors = new double[3];
        Decibels.toFactors(new double[3], 3, factors);
        assertThat(factors).containsOnly(1);
    }
}
