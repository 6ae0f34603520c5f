package waterwheel.core.stems;

import com.fasterxml.jackson.databind.JsonNode;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;

/**
 * A file that a finished render has left in a folder.
 *
 * @param name of the channel that it is the stem of
 */
public record RenderedStem(Path file, String name, StemResult.Role role) {
    /** The files of a folder's render; none where there is no finished one. */
    public static List<RenderedStem> in(Path folder) {
        JsonNode manifest = RenderPlace.manifest(folder);
        List<RenderedStem> stems = new ArrayList<>();
        if (manifest.path("complete").asBoolean()) {
            for (JsonNode one : RenderPlace.entries(folder, manifest)) {
                for (StemResult.Role role : StemResult.Role.values()) {
                    if (role.label().equals(one.path("role").asText())) {
                        stems.add(new RenderedStem(
                                folder.resolve(one.path("path").asText()),
                                one.path("name").asText(),
                                role));
                    }
                }
            }
        }
        return stems;
    }
}
