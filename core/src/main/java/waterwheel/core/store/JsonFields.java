package waterwheel.core.store;

import com.fasterxml.jackson.databind.JsonNode;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Set;
import java.util.function.Function;
import waterwheel.core.units.PlainText;

/**
 * Reads the fields of one JSON object, remembers which were asked for, and names the place of whatever is wrong, such
 * as {@code channels[3].trimDb}.
 */
final class JsonFields {
    /** How much of a wrong value a sentence holds. */
    private static final int MOST_TOLD = 60;

    private final JsonNode node;
    private final String place;
    private final List<String> unknown;
    private final Set<String> asked = new LinkedHashSet<>();

    JsonFields(JsonNode node, String place, List<String> unknown) throws SessionJson.Problem {
        if (!node.isObject()) {
            throw new SessionJson.Problem((place.isEmpty() ? "The file" : place) + " is not an object.");
        }
        this.node = node;
        this.place = place;
        this.unknown = unknown;
    }

    /** Reads an element of a list. */
    interface Reader<T> {
        T read(JsonFields fields) throws SessionJson.Problem;
    }

    private static String told(JsonNode value) {
        return PlainText.of(value.toString(), MOST_TOLD);
    }

    private JsonNode field(String name) throws SessionJson.Problem {
        asked.add(name);
        JsonNode value = node.get(name);
        if (value == null) {
            throw new SessionJson.Problem(at(name) + " is missing.");
        }
        return value;
    }

    /** Whether the object has a field that it need not have. */
    boolean has(String name) {
        return node.has(name);
    }

    private String at(String name) {
        return place.isEmpty() ? name : place + "." + name;
    }

    String text(String name) throws SessionJson.Problem {
        JsonNode value = field(name);
        if (!value.isTextual() || value.textValue().isBlank()) {
            throw new SessionJson.Problem(at(name) + " is not a text.");
        }
        return value.textValue();
    }

    boolean flag(String name) throws SessionJson.Problem {
        JsonNode value = field(name);
        if (!value.isBoolean()) {
            throw new SessionJson.Problem(at(name) + " is neither true nor false.");
        }
        return value.booleanValue();
    }

    double number(String name, double lowest, double highest) throws SessionJson.Problem {
        JsonNode value = field(name);
        if (!value.isNumber() || !(value.doubleValue() >= lowest && value.doubleValue() <= highest)) {
            throw new SessionJson.Problem(
                    at(name) + " is " + told(value) + ", but must be a number from " + lowest + " to " + highest + ".");
        }
        return value.doubleValue();
    }

    /** A level in dB, where null is silence. */
    double levelOrSilence(String name, double highest) throws SessionJson.Problem {
        return field(name).isNull() ? Double.NEGATIVE_INFINITY : number(name, -Double.MAX_VALUE, highest);
    }

    long count(String name, long lowest, long highest) throws SessionJson.Problem {
        JsonNode value = field(name);
        if (!value.isIntegralNumber()
                || !value.canConvertToLong()
                || value.longValue() < lowest
                || value.longValue() > highest) {
            throw new SessionJson.Problem(at(name) + " is " + told(value) + ", but must be a whole number from "
                    + lowest + " to " + highest + ".");
        }
        return value.longValue();
    }

    /** One of several, found by the word that stands for it in the file. */
    <E> E oneOf(String name, E[] constants, Function<E, String> word) throws SessionJson.Problem {
        String found = text(name);
        for (E constant : constants) {
            if (word.apply(constant).equals(found)) {
                return constant;
            }
        }
        List<String> words = Arrays.stream(constants).map(word).toList();
        throw new SessionJson.Problem(at(name) + " is '" + PlainText.of(found, MOST_TOLD) + "', but must be one of "
                + String.join(", ", words) + ".");
    }

    JsonFields object(String name) throws SessionJson.Problem {
        return new JsonFields(field(name), at(name), unknown);
    }

    boolean isNull(String name) throws SessionJson.Problem {
        return field(name).isNull();
    }

    /** A list of texts. */
    List<String> texts(String name) throws SessionJson.Problem {
        JsonNode value = field(name);
        List<String> out = new ArrayList<>();
        for (JsonNode element : value) {
            if (!element.isTextual() || element.textValue().isBlank()) {
                throw new SessionJson.Problem(at(name) + " is not a list of texts.");
            }
            out.add(element.textValue());
        }
        if (!value.isArray()) {
            throw new SessionJson.Problem(at(name) + " is not a list.");
        }
        return out;
    }

    <T> List<T> list(String name, Reader<T> reader) throws SessionJson.Problem {
        JsonNode value = field(name);
        if (!value.isArray()) {
            throw new SessionJson.Problem(at(name) + " is not a list.");
        }
        List<T> out = new ArrayList<>();
        for (int i = 0; i < value.size(); i++) {
            JsonFields element = new JsonFields(value.get(i), at(name) + "[" + i + "]", unknown);
            try {
                out.add(reader.read(element));
            } catch (IllegalArgumentException e) {
                throw new SessionJson.Problem(element.place + " cannot be: " + e.getMessage() + ".");
            }
            element.close();
        }
        return out;
    }

    /** Notes every field that nobody asked for. */
    void close() {
        node.fieldNames().forEachRemaining(name -> {
            if (!asked.contains(name)) {
                unknown.add(at(name));
            }
        });
    }
}
