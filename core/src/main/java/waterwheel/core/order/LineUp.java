package waterwheel.core.order;

import java.util.List;

/**
 * A named set of parts that a delivery takes in, such as what is left to play where the drummer comes along.
 *
 * @param parts names of the parts that are in
 */
public record LineUp(String name, List<String> parts) {
    public LineUp {
        if (name.isBlank()) {
            throw new IllegalArgumentException("name: blank (expected: a name)");
        }
        parts = List.copyOf(parts);
    }
}
