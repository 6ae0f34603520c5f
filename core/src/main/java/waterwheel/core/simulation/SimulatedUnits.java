package waterwheel.core.simulation;

import com.fasterxml.jackson.core.JsonProcessingException;
import com.fasterxml.jackson.databind.JsonNode;
import java.io.IOException;
import java.io.InputStream;
import java.io.UncheckedIOException;
import java.nio.charset.StandardCharsets;
import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Optional;
import java.util.OptionalDouble;
import waterwheel.core.json.Json;
import waterwheel.core.rack.Expectation;
import waterwheel.core.rack.Knob;
import waterwheel.core.rack.Unit;
import waterwheel.core.rack.UnitId;

/** The simulated units that there are, read from their descriptions. */
public final class SimulatedUnits {
    private static final List<UnitDescription> ALL = read();

    private SimulatedUnits() {}

    /** What there is to choose from, by key in the order of the descriptions: its name. */
    public static Map<String, String> names() {
        Map<String, String> names = new LinkedHashMap<>();
        ALL.forEach(one -> names.put(one.key(), one.name()));
        return names;
    }

    /**
     * A unit fresh from the works.
     *
     * @throws IllegalArgumentException if there is none of that key
     */
    public static Unit unit(String key, UnitId id) {
        return find(key)
                .orElseThrow(() ->
                        new IllegalArgumentException("key: '" + key + "' (expected: one of " + names().keySet() + ")"))
                .unit(id);
    }

    static Optional<UnitDescription> find(String key) {
        return ALL.stream().filter(one -> one.key().equals(key)).findFirst();
    }

    private static List<UnitDescription> read() {
        try (InputStream in = SimulatedUnits.class.getResourceAsStream("units.json")) {
            if (in == null) {
                throw new IllegalStateException("units.json: missing (expected: beside this class)");
            }
            List<UnitDescription> all = new ArrayList<>();
            for (JsonNode node : Json.parse(new String(in.readAllBytes(), StandardCharsets.UTF_8))) {
                all.add(description(node));
            }
            return List.copyOf(all);
        } catch (JsonProcessingException e) {
            throw new IllegalStateException("units.json: " + e.getOriginalMessage(), e);
        } catch (IOException e) {
            throw new UncheckedIOException(e);
        }
    }

    private static UnitDescription description(JsonNode node) {
        List<Knob> knobs = new ArrayList<>();
        for (JsonNode knob : node.withArray("knobs")) {
            knobs.add(new Knob(
                    knob.path("name").asText(),
                    knob.path("least").asDouble(),
                    knob.path("most").asDouble(),
                    knob.path("unit").asText(),
                    knob.path("value").asDouble()));
        }
        List<UnitPart> parts = new ArrayList<>();
        for (JsonNode part : node.withArray("parts")) {
            parts.add(part(part));
        }
        boolean hums = node.has("humHz");
        return new UnitDescription(
                node.path("key").asText(),
                node.path("name").asText(),
                node.path("channels").asInt(1),
                constant(Expectation.class, node.path("expects").asText()),
                node.path("reamplified").asBoolean(),
                node.path("latencyMicroseconds").asDouble() * 1e-6,
                node.path("inverted").asBoolean(),
                node.path("noiseDbu").asDouble(),
                hums ? OptionalDouble.of(node.path("humHz").asDouble()) : OptionalDouble.empty(),
                hums ? node.path("humDbu").asDouble() : Double.NEGATIVE_INFINITY,
                knobs,
                parts);
    }

    private static UnitPart part(JsonNode node) {
        Map<String, UnitSetting> settings = new LinkedHashMap<>();
        node.properties().forEach(entry -> {
            JsonNode value = entry.getValue();
            if (value.isNumber()) {
                settings.put(entry.getKey(), UnitSetting.of(value.asDouble()));
            } else if (value.isObject()) {
                settings.put(
                        entry.getKey(),
                        new UnitSetting(
                                Optional.of(value.path("knob").asText()),
                                value.path("from").asDouble(),
                                value.path("to").asDouble()));
            }
        });
        return new UnitPart(constant(UnitPart.Kind.class, node.path("kind").asText()), settings);
    }

    private static <E extends Enum<E>> E constant(Class<E> type, String word) {
        return Enum.valueOf(type, word.toUpperCase(Locale.ROOT).replace(' ', '_'));
    }
}
