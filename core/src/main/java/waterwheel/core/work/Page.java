package waterwheel.core.work;

import com.samskivert.mustache.Mustache;
import java.io.IOException;
import java.io.InputStream;
import java.io.UncheckedIOException;
import java.nio.charset.StandardCharsets;
import java.util.Objects;

/** Readable pages, from templates that lie beside the classes whose pages they are. */
public final class Page {
    private Page() {}

    /**
     * Fills in a template.
     *
     * @param owner the class beside which it lies
     * @param template its file's name
     * @param values by name, as its marks have them
     */
    public static String filled(Class<?> owner, String template, Object values) {
        try (InputStream in = owner.getResourceAsStream(template)) {
            String text = new String(Objects.requireNonNull(in).readAllBytes(), StandardCharsets.UTF_8);
            return Mustache.compiler().compile(text).execute(values);
        } catch (IOException e) {
            throw new UncheckedIOException("The template " + template + " cannot be read", e);
        }
    }
}
