package waterwheel.core.audiofile;

import com.fasterxml.jackson.databind.JsonNode;
import com.fasterxml.jackson.databind.node.ObjectNode;
import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import org.jspecify.annotations.Nullable;
import waterwheel.core.json.Json;
import waterwheel.core.work.AsideFile;

/**
 * What files held when they were looked into, by path, size and time of writing. Of a folder that was copied without the
 * times of its files a session knows the content of none of them any more; noted in its cache, they are looked into once
 * and not at every opening. One thread at a time.
 */
public final class ContentNotes {
    /** The name in the cache's folder. */
    public static final String FILE = "contents.json";

    private final Path file;
    private @Nullable ObjectNode notes;
    private boolean more;

    private ContentNotes(Path file) {
        this.file = file;
    }

    /** The notes in a cache's folder. Where there is none, nothing is noted. */
    public static ContentNotes in(Path cacheFolder) {
        return new ContentNotes(cacheFolder.resolve(FILE));
    }

    /**
     * The hash of what a file holds ({@link ContentHash}), as it is noted or read.
     *
     * @throws IOException if the file cannot be read
     */
    public String of(Path audio) throws IOException {
        String path = audio.toAbsolutePath().normalize().toString();
        ObjectNode all = notes();
        JsonNode note = all.path(path);
        long size = Files.size(audio);
        long time = Files.getLastModifiedTime(audio).toMillis();
        if (note.path("bytes").asLong(-1) == size
                && note.path("modified").asLong(-1) == time
                && note.path("hash").isTextual()) {
            return note.path("hash").textValue();
        }
        String hash = ContentHash.of(audio);
        all.set(path, Json.object().put("bytes", size).put("modified", time).put("hash", hash));
        more = true;
        return hash;
    }

    private ObjectNode notes() {
        ObjectNode known = notes;
        if (known == null) {
            known = read();
            notes = known;
        }
        return known;
    }

    /** Damaged notes are none: everything in them can be found out again. */
    private ObjectNode read() {
        try {
            return Json.parse(Files.readString(file)) instanceof ObjectNode object ? object : Json.object();
        } catch (IOException e) {
            return Json.object();
        }
    }

    /** Has what was found out known the next time, where there is a cache and the disk lets it be written. */
    public void keep() {
        if (more && Files.isDirectory(file.resolveSibling(""))) {
            try {
                AsideFile.write(file, path -> Files.writeString(path, Json.compact(notes())));
                more = false;
            } catch (IOException e) {
                // They are looked into again next time.
            }
        }
    }
}
