package waterwheel.core.inserts;

import static org.assertj.core.api.Assertions.assertThat;

import java.nio.file.Files;
import java.nio.file.Path;
import java.util.stream.Collectors;
import org.junit.jupiter.api.DisplayNameGeneration;
import org.junit.jupiter.api.DisplayNameGenerator;
import org.junit.jupiter.api.Test;
import waterwheel.core.processing.Processors;

/**
 * The page of all processors' settings is made of their descriptors; {@code -Dtest.jvm.args=-Dwaterwheel.write.docs=true}
 * has it written.
 */
@DisplayNameGeneration(DisplayNameGenerator.ReplaceUnderscores.class)
class ProcessorPageTest {
    private static final Path PAGE = Path.of("..", "docs", "processors.md");

    private static String page() {
        StringBuilder page = new StringBuilder("""
            # Settings of inserts

            What `settings` of an insert in `session.json` may hold, by its `kind`. A setting that is left out has its usual value. Of a choice, the number of its word is stored, from 0. Beside its settings every insert has `bypassed`, `inputDb` and `outputDb` (-24 to 24), and `mix` (0 to 1); a convolution has the id of its impulse response's source in `response`, a hardware loop its ports, timing and capture in `loop`. What each does is in [signal.md](signal.md).
            """);
        for (ProcessorKind kind : Processors.kinds()) {
            page.append("\n## ")
                    .append(kind.label())
                    .append(", `")
                    .append(kind.key())
                    .append("`\n\n");
            page.append(kind.keyed() ? "Has a key input.\n\n" : "");
            page.append("| key | on screen | unit | least | most | usual |\n| --- | --- | --- | --- | --- | --- |\n");
            kind.parameters().forEach(parameter -> page.append(row(parameter)));
        }
        return page.toString();
    }

    private static String row(Parameter parameter) {
        String usual = number(parameter.usual());
        String unit = parameter.unit();
        if (!parameter.choices().isEmpty()) {
            unit = parameter.choices().stream()
                    .map(word -> parameter.choices().indexOf(word) + " " + word)
                    .collect(Collectors.joining(", "));
        }
        return "| `" + parameter.key() + "` | " + parameter.name() + " | " + unit + " | " + number(parameter.least())
                + " | " + number(parameter.most()) + " | " + usual + " |\n";
    }

    private static String number(double value) {
        return value == Math.rint(value) ? Long.toString((long) value) : Double.toString(value);
    }

    @Test
    void the_page_is_what_the_descriptors_say() throws Exception {
        if (Boolean.getBoolean("waterwheel.write.docs")) {
            Files.writeString(PAGE, page());
        }
        assertThat(PAGE).hasContent(page());
    }
}
