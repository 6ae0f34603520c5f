package waterwheel.core.songs;

import com.fasterxml.jackson.databind.JsonNode;
import com.fasterxml.jackson.databind.node.ArrayNode;
import com.fasterxml.jackson.databind.node.ObjectNode;
import java.io.IOException;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.TreeMap;
import waterwheel.core.json.Json;
import waterwheel.core.order.Song;
import waterwheel.core.stems.Checksums;
import waterwheel.core.work.AsideFile;

/** What lies beside a delivered song, and what is printed of a delivery; its schema is order-deliver in docs/schema. */
public final class DeliveryJson {
    static final String FILE = "delivery.json";
    private static final String FORMAT = "waterwheel-delivery";

    private DeliveryJson() {}

    /** All songs of a delivery. */
    public static ObjectNode of(DeliveryRequest request, List<DeliveredSong> songs) {
        ObjectNode node = Json.object();
        node.put("folder", request.folder().toString());
        node.put("encoding", request.format().label());
        ArrayNode all = node.putArray("songs");
        songs.forEach(song -> all.add(song(song)));
        return node;
    }

    /** One song. */
    public static ObjectNode song(DeliveredSong song) {
        ObjectNode node = Json.object();
        node.put("id", song.id().value());
        node.put("title", song.title());
        node.put("folder", song.folder());
        node.put("delivered", song.delivered());
        node.put("holds", song.holds());
        node.put("proof", song.proof());
        node.put("upToDate", song.upToDate());
        ArrayNode parts = node.putArray("parts");
        for (DeliveredPart part : song.parts()) {
            ObjectNode entry = parts.addObject();
            entry.put("name", part.name());
            entry.put("where", part.where());
            entry.put("sum", part.sum());
            entry.set("integratedLufs", Json.figure(part.level().integratedLufs()));
            entry.set("loudnessRangeLu", Json.figure(part.level().rangeLu()));
            entry.set("truePeakDbtp", Json.figure(part.level().truePeakDbtp()));
            entry.set("samplePeakDbfs", Json.figure(part.level().samplePeakDbfs()));
        }
        ArrayNode files = node.putArray("files");
        new TreeMap<>(song.checksums())
                .forEach((path, sum) -> files.addObject().put("path", path).put("sha256", sum));
        return node;
    }

    /** Notes in a song's folder what lies there and what it was made of. */
    static void write(Path folder, DeliveredSong song, String key) throws IOException {
        ObjectNode node = Json.object();
        node.put("format", FORMAT);
        node.put("key", key);
        node.setAll(song(song));
        byte[] text = Json.pretty(node).getBytes(StandardCharsets.UTF_8);
        AsideFile.write(folder.resolve(FILE), path -> Files.write(path, text));
    }

    /** A song whose files are all there and are what would be made again. */
    static Optional<DeliveredSong> upToDate(Path folder, String name, Song song, String key) {
        try {
            JsonNode node = Json.parse(Files.readString(folder.resolve(FILE), StandardCharsets.UTF_8));
            if (!node.path("format").asText().equals(FORMAT)
                    || !node.path("key").asText().equals(key)) {
                return Optional.empty();
            }
            Map<String, String> sums = new TreeMap<>();
            for (JsonNode file : node.path("files")) {
                String path = file.path("path").asText();
                if (!Checksums.of(folder.resolve(path))
                        .equals(file.path("sha256").asText())) {
                    return Optional.empty();
                }
                sums.put(path, file.path("sha256").asText());
            }
            List<DeliveredPart> parts = new ArrayList<>();
            node.path("parts").forEach(part -> parts.add(part(part)));
            return sums.isEmpty()
                    ? Optional.empty()
                    : Optional.of(new DeliveredSong(
                            song.id(),
                            song.title(),
                            name,
                            parts,
                            sums,
                            node.path("holds").asBoolean(),
                            node.path("proof").asText(),
                            true));
        } catch (IOException | IllegalArgumentException e) {
            return Optional.empty();
        }
    }

    private static DeliveredPart part(JsonNode node) {
        return new DeliveredPart(
                node.path("name").asText(),
                node.path("where").asText(),
                node.path("sum").asBoolean(),
                new Level(
                        figure(node.path("integratedLufs")),
                        figure(node.path("loudnessRangeLu")),
                        figure(node.path("truePeakDbtp")),
                        figure(node.path("samplePeakDbfs"))));
    }

    /** Null is silence. */
    private static double figure(JsonNode node) {
        return node.isNumber() ? node.doubleValue() : Double.NEGATIVE_INFINITY;
    }
}
