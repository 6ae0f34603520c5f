package waterwheel.cli;

import static org.assertj.core.api.Assertions.assertThat;

import com.fasterxml.jackson.databind.JsonNode;
import com.fasterxml.jackson.databind.ObjectMapper;
import com.networknt.schema.JsonSchema;
import com.networknt.schema.JsonSchemaFactory;
import com.networknt.schema.SpecVersion;
import java.io.ByteArrayOutputStream;
import java.io.PrintStream;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import org.junit.jupiter.api.io.TempDir;
import waterwheel.core.audiofile.SampleEncoding;
import waterwheel.core.audiofile.WavWriter;
import waterwheel.core.session.Session;
import waterwheel.core.store.SessionFolder;

/** Runs commands and reads what they printed. */
abstract class RunCommands {
    private final ByteArrayOutputStream out = new ByteArrayOutputStream();
    private final ByteArrayOutputStream err = new ByteArrayOutputStream();

    @TempDir
    Path folder;

    int run(String... args) {
        out.reset();
        err.reset();
        return Main.run(
                new PrintStream(out, true, StandardCharsets.UTF_8),
                new PrintStream(err, true, StandardCharsets.UTF_8),
                args);
    }

    /** Starts a command in a process of its own, to be killed; what it prints goes to a file. */
    Process start(String... args) throws Exception {
        List<String> words = new ArrayList<>(List.of(
                Path.of(System.getProperty("java.home"), "bin", "java").toString(),
                "-cp",
                System.getProperty("java.class.path"),
                Main.class.getName()));
        words.addAll(List.of(args));
        return new ProcessBuilder(words)
                .redirectOutput(folder.resolve("printed").toFile())
                .redirectErrorStream(true)
                .start();
    }

    String session() {
        return folder.resolve("song").toString();
    }

    Session loaded() throws Exception {
        return SessionFolder.load(folder.resolve("song")).session();
    }

    /** Makes a session of one second of a tone. */
    void newSessionOfATone() throws Exception {
        Path file = folder.resolve("tone.wav");
        float[][] planes = new float[1][48_000];
        for (int i = 0; i < planes[0].length; i++) {
            planes[0][i] = (float) (0.1 * Math.sin(2 * Math.PI * 440 * i / 48_000));
        }
        try (WavWriter writer = WavWriter.create(file, 1, 48_000, SampleEncoding.PCM_24, planes[0].length)) {
            writer.write(planes, 0, planes[0].length);
            writer.finish();
        }
        assertThat(run("new", session(), file.toString())).isZero();
    }

    String out() {
        return out.toString(StandardCharsets.UTF_8);
    }

    String err() {
        return err.toString(StandardCharsets.UTF_8);
    }

    /** What was printed, as one document that fits its schema. */
    JsonNode json(String schema) throws Exception {
        return fitting(out(), schema);
    }

    /** A text as a document that fits a schema. */
    static JsonNode fitting(String text, String schema) throws Exception {
        JsonNode document = new ObjectMapper().readTree(text);
        Path file = Path.of("..", "docs", "schema", schema + ".schema.json");
        JsonSchema found =
                JsonSchemaFactory.getInstance(SpecVersion.VersionFlag.V202012).getSchema(Files.readString(file));
        assertThat(found.validate(document)).as("against " + file).isEmpty();
        return document;
    }
}
