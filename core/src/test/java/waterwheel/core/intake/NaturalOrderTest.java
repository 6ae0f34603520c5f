package waterwheel.core.intake;

import static org.assertj.core.api.Assertions.assertThat;

import java.util.ArrayList;
import java.util.Collections;
import java.util.List;
import org.junit.jupiter.api.DisplayNameGeneration;
import org.junit.jupiter.api.DisplayNameGenerator;
import org.junit.jupiter.api.Test;

@DisplayNameGeneration(DisplayNameGenerator.ReplaceUnderscores.class)
class NaturalOrderTest {
    @Test
    void numbers_in_names_count() {
        List<String> sorted = List.of(
                "1 Kick",
                "2 Snare",
                "010 Bass",
                "10 Bass",
                "100 FX",
                "Guitar 2",
                "guitar 10",
                "Voice",
                "99999999999999999999999 x");
        List<String> names = new ArrayList<>(sorted);
        Collections.reverse(names);
        names.sort(NaturalOrder.ofNames());
        assertThat(names.indexOf("2 Snare")).isLessThan(names.indexOf("10 Bass"));
        assertThat(names.indexOf("10 Bass")).isLessThan(names.indexOf("100 FX"));
        assertThat(names.indexOf("Guitar 2")).isLessThan(names.indexOf("guitar 10"));
        assertThat(names.indexOf("100 FX")).isLessThan(names.indexOf("99999999999999999999999 x"));
        assertThat(names).containsExactlyInAnyOrderElementsOf(sorted);
    }
}
