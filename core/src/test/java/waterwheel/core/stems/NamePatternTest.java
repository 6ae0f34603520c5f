package waterwheel.core.stems;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatIllegalArgumentException;

import java.text.Normalizer;
import java.util.HashSet;
import java.util.Set;
import org.junit.jupiter.api.DisplayNameGeneration;
import org.junit.jupiter.api.DisplayNameGenerator;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.ValueSource;

@DisplayNameGeneration(DisplayNameGenerator.ReplaceUnderscores.class)
class NamePatternTest {
    private final Set<String> taken = new HashSet<>();

    @Test
    void words_in_braces_say_what_they_stand_for() {
        assertThat(new NamePattern("{song} - {number} {part} {rate} {date}", "2026-11")
                        .named(3, "Bass", "Reel", 48_000))
                .isEqualTo("Reel - 03 Bass 48000 2026-11");
        assertThat(NamePattern.USUAL.named(12, "Bass", "Reel", 48_000)).isEqualTo("12 Bass");
        assertThat(NamePattern.BY_PART.named(1, "a {song} $1", "Reel", 48_000)).isEqualTo("a {song} $1");
    }

    @ParameterizedTest
    @ValueSource(strings = {"{parts}", "{}", "", "{song}", "Stem"})
    void a_pattern_that_cannot_be_is_told(String text) {
        assertThat(NamePattern.problem(text)).isPresent();
        assertThatIllegalArgumentException().isThrownBy(() -> new NamePattern(text, ""));
    }

    @Test
    void names_are_unlike_on_every_system() {
        assertThat(FileNames.unique("Fiddle", taken)).isEqualTo("Fiddle");
        assertThat(FileNames.unique("fiddle", taken)).isEqualTo("fiddle 2");
        assertThat(FileNames.unique("FIDDLE", taken)).isEqualTo("FIDDLE 3");
        assertThat(FileNames.unique("Bodhrán", taken)).isEqualTo("Bodhrán");
        assertThat(FileNames.unique(Normalizer.normalize("Bodhrán", Normalizer.Form.NFD), taken))
                .endsWith(" 2");
    }

    @ParameterizedTest
    @ValueSource(strings = {"con", "AUX", "nul.wav", "COM1", "", "  ", "...", "a/b\\c:d*?\"<>|"})
    void names_are_such_as_every_system_takes(String name) {
        assertThat(FileNames.unique(name, taken))
                .doesNotContainPattern("[\\\\/:*?\"<>|]")
                .doesNotMatch("(?i)(con|prn|aux|nul|com\\d|lpt\\d)([.].*)?")
                .doesNotEndWith(".")
                .isNotBlank();
    }
}
