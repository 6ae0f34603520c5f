package waterwheel.core.json;

import com.fasterxml.jackson.core.JsonGenerator;
import com.fasterxml.jackson.core.JsonProcessingException;
import com.fasterxml.jackson.core.StreamReadFeature;
import com.fasterxml.jackson.core.util.DefaultIndenter;
import com.fasterxml.jackson.core.util.DefaultPrettyPrinter;
import com.fasterxml.jackson.databind.DeserializationFeature;
import com.fasterxml.jackson.databind.JsonNode;
import com.fasterxml.jackson.databind.ObjectMapper;
import com.fasterxml.jackson.databind.json.JsonMapper;
import com.fasterxml.jackson.databind.node.DecimalNode;
import com.fasterxml.jackson.databind.node.JsonNodeFactory;
import com.fasterxml.jackson.databind.node.NullNode;
import com.fasterxml.jackson.databind.node.ObjectNode;
import java.math.BigDecimal;
import java.math.RoundingMode;

/** JSON documents as Waterwheel writes them. */
public final class Json {
    private static final int DECIMALS = 4;
    private static final JsonNodeFactory NODES = JsonNodeFactory.instance;
    private static final ObjectMapper MAPPER = JsonMapper.builder()
            .enable(JsonGenerator.Feature.WRITE_BIGDECIMAL_AS_PLAIN)
            .enable(StreamReadFeature.STRICT_DUPLICATE_DETECTION)
            .enable(DeserializationFeature.FAIL_ON_TRAILING_TOKENS)
            .build();

    private Json() {}

    public static ObjectNode object() {
        return NODES.objectNode();
    }

    /** A figure with four decimals; null for infinity and NaN. */
    public static JsonNode figure(double value) {
        return figure(value, DECIMALS);
    }

    public static JsonNode figure(double value, int decimals) {
        return Double.isFinite(value)
                ? DecimalNode.valueOf(BigDecimal.valueOf(value).setScale(decimals, RoundingMode.HALF_EVEN))
                : NullNode.getInstance();
    }

    /** The document on several lines, with a line feed at its end on every system. */
    public static String pretty(JsonNode document) {
        DefaultIndenter indenter = new DefaultIndenter("  ", "\n");
        DefaultPrettyPrinter printer = new DefaultPrettyPrinter();
        printer.indentObjectsWith(indenter);
        printer.indentArraysWith(indenter);
        try {
            return MAPPER.writer(printer).writeValueAsString(document) + "\n";
        } catch (JsonProcessingException e) {
            throw new IllegalStateException("A tree can always be written.", e);
        }
    }

    /** The document on one line. */
    public static String compact(JsonNode document) {
        try {
            return MAPPER.writeValueAsString(document);
        } catch (JsonProcessingException e) {
            throw new IllegalStateException("A tree can always be written.", e);
        }
    }

    /**
     * Reads a document.
     *
     * @throws JsonProcessingException if the text is not one JSON document, or an object in it has a field twice
     */
    public static JsonNode parse(String text) throws JsonProcessingException {
        return MAPPER.readTree(text);
    }
}
