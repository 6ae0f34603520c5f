package waterwheel.core.units;

import static org.assertj.core.api.Assertions.assertThat;

import net.jqwik.api.ForAll;
import net.jqwik.api.Property;
import net.jqwik.api.constraints.IntRange;
import org.junit.jupiter.api.Test;

class PlainTextTest {
    @Test
    void what_steers_a_terminal_is_a_question_mark_and_what_names_are_made_of_stays() {
        assertThat(PlainText.visible("a\u001b[2Jb\u0007\u009bc\u202ed\u2066e\nf\rg\u2028h"))
                .isEqualTo("a?[2Jb??c?d?e?f?g?h");
        // Accents, other scripts, signs beyond the first plane, and the joiner that they are put together with.
        String names = "\u00dcber \u6c34 \u0915\u094d\u200d\u0937 \uD83E\uDD41 \u2212\u2192";
        assertThat(PlainText.visible(names)).isEqualTo(names);
    }

    @Test
    void of_a_long_text_the_middle_is_left_out() {
        assertThat(PlainText.of("x".repeat(1_000) + "end", 40))
                .hasSize(40)
                .startsWith("xxxx")
                .endsWith("end");
        assertThat(PlainText.of("short", 40)).isEqualTo("short");
    }

    @Property
    void no_text_is_longer_than_asked_for_or_holds_half_a_character(
            @ForAll String text, @ForAll @IntRange(min = 10, max = 60) int most) {
        String plain = PlainText.of(text.repeat(3), most);
        assertThat(plain.length()).isLessThanOrEqualTo(Math.max(most, 0));
        for (int i = 0; i < plain.length(); i++) {
            char one = plain.charAt(i);
            boolean paired = Character.isHighSurrogate(one)
                    ? i + 1 < plain.length() && Character.isLowSurrogate(plain.charAt(i + 1))
                    : !Character.isLowSurrogate(one) || (i > 0 && Character.isHighSurrogate(plain.charAt(i - 1)));
            assertThat(paired).as("at %d of %s", i, plain).isTrue();
        }
    }
}
