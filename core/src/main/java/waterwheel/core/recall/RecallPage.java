package waterwheel.core.recall;

import com.fasterxml.jackson.core.JsonProcessingException;
import com.fasterxml.jackson.databind.JsonNode;
import com.fasterxml.jackson.databind.node.ArrayNode;
import com.fasterxml.jackson.databind.node.ObjectNode;
import java.io.IOException;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Optional;
import waterwheel.core.json.Json;
import waterwheel.core.work.AsideFile;
import waterwheel.core.work.Page;

/** A recall sheet as a page to be printed, which can be read again. */
public final class RecallPage {
    /** Its name in a session's folder. */
    public static final String FILE = "recall-sheet.html";

    private static final String BEGIN = "<script type=\"application/json\" id=\"recall-sheet\">";
    private static final String END = "</script>";
    /** A page that is longer was not made here. */
    private static final long MOST_BYTES = 4L << 20;

    private RecallPage() {}

    /**
     * Writes the page; one of the same name gives way.
     *
     * @throws IOException if the disk refuses; a page that was there is as it was
     */
    public static void write(RecallSheet sheet, Path file) throws IOException {
        AsideFile.write(file, path -> Files.writeString(path, html(sheet), StandardCharsets.UTF_8));
    }

    /**
     * Reads a page back.
     *
     * @return empty where the file is not there or is not such a page
     */
    public static Optional<RecallSheet> read(Path file) {
        try {
            if (!Files.isRegularFile(file) || Files.size(file) > MOST_BYTES) {
                return Optional.empty();
            }
            String text = Files.readString(file, StandardCharsets.UTF_8);
            int from = text.indexOf(BEGIN);
            int to = text.indexOf(END, Math.max(0, from));
            return from < 0 || to < 0
                    ? Optional.empty()
                    : Optional.of(sheet(Json.parse(text.substring(from + BEGIN.length(), to))));
        } catch (JsonProcessingException e) {
            return Optional.empty();
        } catch (IOException e) {
            return Optional.empty();
        }
    }

    static String html(RecallSheet sheet) {
        List<Map<String, Object>> units = new ArrayList<>();
        for (RecallSheet.Entry entry : sheet.units()) {
            List<Map<String, Object>> lines = entry.lines().stream()
                    .map(line -> Map.<String, Object>of(
                            "name", line.name(),
                            "value", line.value(),
                            "knob", line.place() >= 0,
                            "percent", String.format(Locale.ROOT, "%.1f", 100 * Math.max(0, line.place()))))
                    .toList();
            units.add(Map.of("name", entry.name(), "lines", lines));
        }
        return Page.filled(
                RecallPage.class,
                "recall-sheet.html",
                // Nothing in the document may end the element that it stands in.
                Map.of(
                        "title",
                        sheet.title(),
                        "units",
                        units,
                        "document",
                        document(sheet).replace("<", "\\u003c")));
    }

    private static String document(RecallSheet sheet) {
        ObjectNode node = Json.object();
        node.put("title", sheet.title());
        ArrayNode units = node.putArray("units");
        for (RecallSheet.Entry entry : sheet.units()) {
            ObjectNode unit = units.addObject();
            unit.put("name", entry.name());
            ArrayNode lines = unit.putArray("lines");
            entry.lines().forEach(line -> lines.addObject()
                    .put("name", line.name())
                    .put("value", line.value())
                    .put("place", line.place()));
        }
        return Json.compact(node);
    }

    private static RecallSheet sheet(JsonNode node) {
        List<RecallSheet.Entry> units = new ArrayList<>();
        for (JsonNode unit : node.path("units")) {
            List<RecallSheet.Line> lines = new ArrayList<>();
            for (JsonNode line : unit.path("lines")) {
                lines.add(new RecallSheet.Line(
                        line.path("name").asText(),
                        line.path("value").asText(),
                        line.path("place").asDouble()));
            }
            units.add(new RecallSheet.Entry(unit.path("name").asText(), lines));
        }
        return new RecallSheet(node.path("title").asText(), units);
    }
}
