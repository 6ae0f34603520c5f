package waterwheel.core.stems;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatExceptionOfType;
import static org.assertj.core.api.Assertions.within;

import com.fasterxml.jackson.databind.JsonNode;
import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.Base64;
import java.util.List;
import java.util.Map;
import java.util.TreeMap;
import java.util.concurrent.CancellationException;
import java.util.stream.Stream;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.DisplayNameGeneration;
import org.junit.jupiter.api.DisplayNameGenerator;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.ValueSource;
import waterwheel.core.audiofile.RenderFormat;
import waterwheel.core.errors.RenderException;
import waterwheel.core.errors.WaterwheelException;
import waterwheel.core.json.Json;
import waterwheel.core.levels.SessionMeasurement;
import waterwheel.core.session.PanLaw;
import waterwheel.core.session.Session;
import waterwheel.core.testing.Sessions;
import waterwheel.core.testing.Signals;
import waterwheel.core.testing.StopsAt;
import waterwheel.core.work.Leftovers;
import waterwheel.core.work.Progress;

/** A set of files is old or new as a whole, whatever goes wrong while it is made. */
@DisplayNameGeneration(DisplayNameGenerator.ReplaceUnderscores.class)
class RenderedSetTest {
    @TempDir
    Path folder;

    private Path out = Path.of("");
    private Session session = Sessions.monoAt(0, PanLaw.MINUS_3);

    @BeforeEach
    void three_tracks() throws Exception {
        out = folder.resolve("out");
        session = new Sessions(folder.resolve("song"))
                .track("one", "main", Signals.noise(0.2, 4_800, 1))
                .track("two", "main", Signals.noise(0.2, 4_800, 2))
                .track("three", "main", Signals.noise(0.2, 4_800, 3))
                .build();
    }

    private StemResult render(Session of, Progress progress) throws WaterwheelException {
        return StemRender.render(
                of,
                folder.resolve("song"),
                new StemRequest(out, RenderFormat.WAV_24, new LevelPolicy.AsMixed(), true),
                progress);
    }

    /** Every file in the folder with what it holds. */
    private Map<String, String> held() throws IOException {
        Map<String, String> held = new TreeMap<>();
        try (Stream<Path> files = Files.walk(out)) {
            for (Path file : files.filter(Files::isRegularFile).toList()) {
                held.put(out.relativize(file).toString(), Base64.getEncoder().encodeToString(Files.readAllBytes(file)));
            }
        }
        return held;
    }

    private JsonNode manifest() throws Exception {
        return Json.parse(Files.readString(out.resolve(StemRender.MANIFEST)));
    }

    private Session softer() {
        return session.withStrip(Sessions.MAIN, s -> s.withFaderDb(-3));
    }

    @ParameterizedTest
    @ValueSource(doubles = {0, 0.05, 0.1, 0.2, 0.3, 0.5})
    void one_that_is_stopped_leaves_the_old_set(double at) throws Exception {
        render(session, Progress.NONE);
        Map<String, String> before = held();
        assertThatExceptionOfType(CancellationException.class).isThrownBy(() -> render(softer(), new StopsAt(at)));
        assertThat(held()).isEqualTo(before);
        assertThat(manifest().get("complete").booleanValue()).isTrue();
    }

    @Test
    void one_whose_last_file_cannot_be_placed_leaves_the_old_set() throws Exception {
        render(session, Progress.NONE);
        Map<String, String> before = held();
        Path aside = Files.createDirectory(out.resolve("aside"));
        for (String name : new String[] {"Mix.wav", "01 one.wav"}) {
            Files.writeString(aside.resolve(name), "new " + name);
        }
        // The second of the files that are promised is not there.
        RenderedSet set = new RenderedSet(aside, out, List.of("Mix.wav", "not there.wav", "01 one.wav"));
        assertThatExceptionOfType(IOException.class)
                .isThrownBy(() ->
                        set.place("{\"unfinished\":true}", Map.of("stems.html", "report"), "{\"finished\":true}"));
        Leftovers.deleteTree(aside);
        assertThat(held()).isEqualTo(before);
    }

    @Test
    void what_the_session_has_no_more_goes_if_it_is_waterwheels_own() throws Exception {
        render(session, Progress.NONE);
        Files.writeString(out.resolve("03 three.wav"), "somebody's letter");
        Session fewer = session.withStrip(Sessions.id("two"), s -> s.withMuted(true))
                .withStrip(Sessions.id("three"), s -> s.withMuted(true));
        StemResult result = render(fewer, Progress.NONE);
        assertThat(result.swept()).containsExactly("02 two.wav");
        assertThat(result.leftBehind()).containsExactly("03 three.wav");
        assertThat(out.resolve("02 two.wav")).doesNotExist();
        assertThat(out.resolve("03 three.wav")).hasContent("somebody's letter");
        assertThat(manifest().get("swept").get(0).textValue()).isEqualTo("02 two.wav");
        assertThat(Files.readString(out.resolve(StemRender.REPORT)))
                .contains("Removed, because the session has them no more: 02 two.wav", "03 three.wav");
    }

    @Test
    void a_manifest_that_lists_what_lies_elsewhere_has_nothing_swept() throws Exception {
        render(session, Progress.NONE);
        Path precious = Files.copy(out.resolve("Mix.wav"), folder.resolve("precious.wav"));
        Path file = out.resolve(StemRender.MANIFEST);
        Files.writeString(file, Files.readString(file).replace("\"02 two.wav\"", "\"../precious.wav\""));
        assertThat(render(session, Progress.NONE).swept()).isEmpty();
        assertThat(precious).exists();
    }

    @Test
    void what_somebody_else_put_under_a_name_is_not_replaced() throws Exception {
        Files.createDirectories(out);
        Files.writeString(out.resolve("02 two.wav"), "a letter");
        assertThatExceptionOfType(RenderException.class)
                .isThrownBy(() -> render(session, Progress.NONE))
                .withMessageContaining("02 two.wav was not rendered by Waterwheel");
        assertThat(held()).containsOnlyKeys("02 two.wav");
        StemForecast forecast = forecast();
        StemRequest request = new StemRequest(out, RenderFormat.WAV_24, new LevelPolicy.AsMixed(), true);
        assertThat(RenderPlace.foreign(StemRender.targets(forecast, request)))
                .containsExactly(out.resolve("02 two.wav"));
        StemRender.render(session, folder.resolve("song"), request.withOverwrite(true), Progress.NONE);
        assertThat(RenderPlace.foreign(StemRender.targets(forecast, request))).isEmpty();
    }

    @Test
    void flac_files_of_earlier_versions_are_known_by_the_manifest_that_lists_them() throws Exception {
        Path old = folder.resolve("old");
        Files.createDirectories(old);
        Files.writeString(old.resolve("Mix.flac"), "without a mark");
        assertThat(RenderPlace.foreign(List.of(old.resolve("Mix.flac")))).hasSize(1);
        Files.writeString(
                old.resolve(StemRender.MANIFEST),
                "{\"format\":\"waterwheel-stems\",\"files\":[{\"path\":\"Mix.flac\"},{\"path\":\"Mix.wav\"}]}");
        assertThat(RenderPlace.foreign(List.of(old.resolve("Mix.flac")))).isEmpty();
        // A WAV file has always had one: what has none was put there by somebody else.
        Files.writeString(old.resolve("Mix.wav"), "without a mark");
        assertThat(RenderPlace.foreign(List.of(old.resolve("Mix.wav")))).hasSize(1);
    }

    private StemForecast forecast() {
        return SessionMeasurement.of(
                session,
                folder.resolve("song"),
                song -> StemForecast.of(
                        session,
                        StemForecast.measure(session, StemSettings.USUAL, song, Progress.NONE),
                        new LevelPolicy.AsMixed(),
                        NamePattern.USUAL));
    }

    @Test
    void a_render_that_finds_no_room_says_how_much_it_takes() {
        assertThatExceptionOfType(RenderException.class)
                .isThrownBy(() -> RenderPlace.checkSpace(folder.resolve("not/there"), 1L << 60))
                .withMessageMatching("(?s).*takes 1152921504\\.61 GB, and .* GB are free.*");
    }

    @Test
    void samples_that_are_no_numbers_fail_the_proof() throws Exception {
        render(session, Progress.NONE);
        StemProof good = render(session, Progress.NONE).proof();
        assertThat(good.holds()).isTrue();
        StemProof bad = new StemProof(
                good.files(),
                good.traces(),
                true,
                0,
                3,
                Double.NEGATIVE_INFINITY,
                good.resolutionDbfs(),
                List.of("Drums"),
                "");
        assertThat(bad.holds()).isFalse();
        assertThat(bad.nulls()).isFalse();
        assertThat(bad.inWords()).startsWith("3 samples are no numbers");
        StemProof endless = new StemProof(
                good.files(),
                good.traces(),
                true,
                0,
                0,
                Double.POSITIVE_INFINITY,
                good.resolutionDbfs(),
                List.of("Drums"),
                "");
        assertThat(endless.holds()).isFalse();
        assertThat(good.residualPeakDbfs()).isLessThan(-100);
        assertThat(good.resolutionDbfs()).isCloseTo(-118, within(12.0));
    }
}
