package waterwheel.core.store;

import com.fasterxml.jackson.core.JsonLocation;
import com.fasterxml.jackson.core.JsonProcessingException;
import com.fasterxml.jackson.databind.JsonNode;
import java.io.IOException;
import java.nio.ByteBuffer;
import java.nio.charset.CharacterCodingException;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.nio.file.StandardCopyOption;
import java.time.Instant;
import java.time.ZoneOffset;
import java.time.format.DateTimeFormatter;
import java.util.HexFormat;
import java.util.List;
import java.util.stream.Stream;
import waterwheel.core.errors.SessionFileException;
import waterwheel.core.json.Json;
import waterwheel.core.units.FileStem;
import waterwheel.core.units.Sha256;

/**
 * A JSON document that somebody works on: every fault of it is one sentence with its place, and earlier saves are kept.
 *
 * @param file where it lies
 * @param earlier the folder of its earlier saves
 */
record DocumentFile(Path file, Path earlier) {
    private static final long LARGEST_FILE = 64L << 20;
    private static final int EARLIER_KEPT = 20;
    private static final DateTimeFormatter STAMP =
            DateTimeFormatter.ofPattern("yyyyMMdd-HHmmss-SSS").withZone(ZoneOffset.UTC);

    /** Makes something of the document. */
    interface Reader<T> {
        T read(JsonNode document, String digest) throws SessionJson.Problem, SessionFileException;
    }

    /**
     * Reads it.
     *
     * @throws SessionFileException if it cannot be read, is damaged, or says what cannot be
     */
    <T> T read(Reader<T> reader) throws SessionFileException {
        String remedy = "Put back an earlier save from " + earlier.getFileName() + "/.";
        try {
            if (Files.size(file) > LARGEST_FILE) {
                throw new SessionFileException(file + " is larger than any such file.", remedy);
            }
            byte[] bytes = Files.readAllBytes(file);
            return reader.read(Json.parse(text(bytes)), digest(bytes));
        } catch (SessionJson.Problem e) {
            throw new SessionFileException(file + ": " + e.getMessage(), e.remedy(), e);
        } catch (JsonProcessingException e) {
            JsonLocation place = e.getLocation();
            throw new SessionFileException(
                    file + " is damaged and cannot be read as JSON"
                            + (place == null
                                    ? ""
                                    : " from line " + place.getLineNr() + ", column " + place.getColumnNr() + " on")
                            + (e.getOriginalMessage().startsWith("Duplicate field") ? ": a field stands twice." : "."),
                    remedy,
                    e);
        } catch (CharacterCodingException e) {
            throw new SessionFileException(file + " is damaged and cannot be read as text.", remedy, e);
        } catch (IOException e) {
            throw new SessionFileException(
                    file + " cannot be read: " + e.getMessage() + ".", "Check that you may read it.", e);
        }
    }

    private static String text(byte[] bytes) throws CharacterCodingException {
        return StandardCharsets.UTF_8
                .newDecoder()
                .decode(ByteBuffer.wrap(bytes))
                .toString();
    }

    private static String digest(byte[] bytes) {
        return HexFormat.of().formatHex(Sha256.start().digest(bytes));
    }

    /** Whether it is no longer what it was; false where there is none any more. */
    boolean changedSince(String digest) throws SessionFileException {
        try {
            return Files.isRegularFile(file)
                    && !digest(Files.readAllBytes(file)).equals(digest);
        } catch (IOException e) {
            throw new SessionFileException(
                    file + " cannot be read: " + e.getMessage() + ".", "Check that you may read it.", e);
        }
    }

    /** Writes it aside, forces it to disk, keeps the save before, and takes its place in one step. */
    void write(byte[] bytes) throws IOException {
        DurableFile.write(file, bytes, () -> {
            if (Files.exists(file)) {
                keepEarlier();
            }
        });
    }

    private void keepEarlier() throws IOException {
        Files.createDirectories(earlier);
        String stem = FileStem.of(file);
        Path copy = earlier.resolve(stem + "-" + STAMP.format(Instant.now()) + ".json");
        Files.copy(file, copy, StandardCopyOption.REPLACE_EXISTING);
        try (Stream<Path> all = Files.list(earlier)) {
            List<Path> saves = all.filter(p -> String.valueOf(p.getFileName()).startsWith(stem + "-"))
                    .filter(p -> String.valueOf(p.getFileName()).endsWith(".json"))
                    .sorted()
                    .toList();
            for (Path old : saves.subList(0, Math.max(0, saves.size() - EARLIER_KEPT))) {
                Files.deleteIfExists(old);
            }
        }
    }
}
