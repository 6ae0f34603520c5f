package waterwheel.core.stems;

import com.fasterxml.jackson.databind.JsonNode;
import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.nio.file.StandardCopyOption;
import java.util.HashMap;
import java.util.Map;
import java.util.Optional;

/** The files that a finished render has left in a folder, known by what they were made of. */
final class EarlierRender {
    private final Map<String, Found> byKey = new HashMap<>();

    private EarlierRender() {}

    /**
     * A file of it.
     *
     * @param checksum as its manifest has it
     */
    record Found(Path file, String checksum, long limitedSamples) {
        /** Copies it, if it is still what its manifest says; else nothing is there. */
        boolean copyTo(Path copy) {
            try {
                if (!Files.isRegularFile(file)) {
                    return false;
                }
                Files.copy(file, copy, StandardCopyOption.REPLACE_EXISTING);
                if (Checksums.of(copy).equals(checksum)) {
                    return true;
                }
                Files.delete(copy);
                return false;
            } catch (IOException e) {
                // Then it is rendered.
                return false;
            }
        }
    }

    /** What lies in a folder; nothing where there is no finished render. */
    static EarlierRender in(Path folder) {
        EarlierRender earlier = new EarlierRender();
        JsonNode manifest = RenderPlace.manifest(folder);
        for (JsonNode one : RenderPlace.entries(folder, manifest)) {
            if (manifest.path("complete").asBoolean() && one.has("key")) {
                earlier.byKey.put(
                        one.path("key").asText(),
                        new Found(
                                folder.resolve(one.path("path").asText()),
                                one.path("sha256").asText(),
                                one.path("limitedSamples").asLong()));
            }
        }
        return earlier;
    }

    Optional<Found> find(String key) {
        return Optional.ofNullable(byKey.get(key));
    }
}
