package waterwheel.core.store;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatExceptionOfType;

import java.io.OutputStream;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.List;
import java.util.Optional;
import java.util.concurrent.CancellationException;
import java.util.stream.Stream;
import java.util.zip.ZipEntry;
import java.util.zip.ZipOutputStream;
import org.junit.jupiter.api.DisplayNameGeneration;
import org.junit.jupiter.api.DisplayNameGenerator;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.ValueSource;
import waterwheel.core.errors.SessionFileException;
import waterwheel.core.freezing.FreezeRun;
import waterwheel.core.session.Session;
import waterwheel.core.testing.Renders;
import waterwheel.core.testing.Sessions;
import waterwheel.core.testing.Signals;
import waterwheel.core.testing.StopsAt;
import waterwheel.core.work.Progress;

/** A session that is handed to someone is whole there, and comes out nowhere else. */
@DisplayNameGeneration(DisplayNameGenerator.ReplaceUnderscores.class)
class SessionPackTest {
    @TempDir
    Path root;

    /** A session of two tracks, of which one's file lies elsewhere under the name of the other's. */
    private Session session() throws Exception {
        Session session = new Sessions(root.resolve("song"))
                .track("one", "main", Signals.noise(0.2, 20_000, 1))
                .track("two", "main", Signals.noise(0.2, 20_000, 2))
                .build();
        Path elsewhere = Files.createDirectories(root.resolve("elsewhere")).resolve("one.wav");
        Files.move(root.resolve("song/two.wav"), elsewhere);
        Session linked = session.withSources(session.sources().stream()
                .map(s -> s.id().value().equals("two") ? s.withPath(elsewhere.toString()) : s.withPath("audio/one.wav"))
                .toList());
        Files.createDirectories(root.resolve("song/audio"));
        Files.move(root.resolve("song/one.wav"), root.resolve("song/audio/one.wav"));
        SessionFolder.save(linked, root.resolve("song"));
        return linked;
    }

    private Path zip() {
        return root.resolve("song.zip");
    }

    private List<String> pack(Session session, boolean frozen) throws Exception {
        return SessionPack.pack(session, root.resolve("song"), zip(), frozen, true, Progress.NONE);
    }

    private Session unpacked(String to) throws Exception {
        SessionPack.unpack(zip(), root.resolve(to), Progress.NONE);
        return SessionFolder.load(root.resolve(to)).session();
    }

    @Test
    void what_is_unpacked_sounds_the_same_and_needs_nothing_outside_of_its_folder() throws Exception {
        Session session = session();
        float[][] mix = new Renders(root.resolve("song")).mix(session);
        assertThat(pack(session, true)).isEmpty();
        Files.delete(root.resolve("elsewhere/one.wav"));
        Session there = unpacked("there");
        assertThat(there.sources()).extracting(s -> s.path()).containsExactly("audio/one.wav", "audio/one-2.wav");
        assertThat(new Renders(root.resolve("there")).mix(there)).isDeepEqualTo(mix);
    }

    @Test
    void frozen_sounds_go_with_it_or_are_computed_there() throws Exception {
        Session session = session();
        Session frozen = FreezeRun.Rendered.into(
                session,
                FreezeRun.run(
                        session,
                        root.resolve("song"),
                        List.of(new FreezeRun.Wanted(Sessions.id("one"), Optional.empty())),
                        Progress.NONE));
        pack(frozen, true);
        assertThat(unpacked("with").channel(Sessions.id("one")).strip().freeze())
                .isPresent();
        assertThat(root.resolve("with").resolve(FreezeRun.FOLDER)).isNotEmptyDirectory();
        pack(frozen, false);
        assertThat(unpacked("without").channel(Sessions.id("one")).strip().freeze())
                .isEmpty();
        assertThat(root.resolve("without").resolve(FreezeRun.FOLDER)).doesNotExist();
    }

    @Test
    void a_missing_file_is_named_and_a_file_that_is_there_is_not_replaced() throws Exception {
        Session session = session();
        Files.delete(root.resolve("elsewhere/one.wav"));
        assertThat(pack(session, true)).containsExactly("one-2.wav");
        assertThatExceptionOfType(SessionFileException.class)
                .isThrownBy(() -> SessionPack.pack(session, root.resolve("song"), zip(), true, false, Progress.NONE))
                .withMessageContaining("is not replaced");
        Files.createDirectories(root.resolve("full"));
        Files.writeString(root.resolve("full/mine.txt"), "mine");
        assertThatExceptionOfType(SessionFileException.class)
                .isThrownBy(() -> unpacked("full"))
                .withMessageContaining("is not replaced");
        assertThat(root.resolve("full/mine.txt")).hasContent("mine");
    }

    @ParameterizedTest
    @ValueSource(strings = {"song/session.json", "song/audio/one.wav", "song/audio/new.zip", "elsewhere/one.wav"})
    void a_sessions_own_files_are_never_replaced(String place) throws Exception {
        Session session = session();
        assertThatExceptionOfType(SessionFileException.class)
                .isThrownBy(() ->
                        SessionPack.pack(session, root.resolve("song"), root.resolve(place), true, true, Progress.NONE))
                .withMessageContaining("among what the session reads from");
        assertThat(SessionFolder.load(root.resolve("song")).session()).isEqualTo(session);
    }

    @ParameterizedTest
    @ValueSource(
            strings = {
                "../out.wav",
                "audio/../../out.wav",
                "/tmp/waterwheel-out.wav",
                "C:\\out.wav",
                "C:/out.wav",
                "audio\\..\\..\\out.wav",
                "."
            })
    void a_pack_that_would_leave_its_folder_is_refused_and_leaves_nothing(String name) throws Exception {
        try (OutputStream out = Files.newOutputStream(zip());
                ZipOutputStream packed = new ZipOutputStream(out)) {
            for (String entry : List.of("session.json", name)) {
                packed.putNextEntry(new ZipEntry(entry));
                packed.write("{}".getBytes(StandardCharsets.UTF_8));
                packed.closeEntry();
            }
        }
        assertThatExceptionOfType(SessionFileException.class)
                .isThrownBy(() -> unpacked("there"))
                .withMessageContaining("outside of its folder");
        assertNothingElse();
    }

    private void assertNothingElse() throws Exception {
        try (Stream<Path> files = Files.list(root)) {
            assertThat(files.map(f -> String.valueOf(f.getFileName())).filter(n -> !n.equals("song.zip")))
                    .isSubsetOf("song", "elsewhere");
        }
        assertThat(root.resolveSibling("out.wav")).doesNotExist();
    }

    @Test
    void what_is_no_pack_is_refused_in_words_and_a_stop_leaves_nothing() throws Exception {
        Files.writeString(zip(), "no zip at all");
        assertThatExceptionOfType(SessionFileException.class)
                .isThrownBy(() -> unpacked("there"))
                .withMessageContaining("cannot be unpacked");
        try (OutputStream out = Files.newOutputStream(zip());
                ZipOutputStream packed = new ZipOutputStream(out)) {
            packed.putNextEntry(new ZipEntry("readme.txt"));
            packed.closeEntry();
        }
        assertThatExceptionOfType(SessionFileException.class)
                .isThrownBy(() -> unpacked("there"))
                .withMessageContaining("holds no session");
        Files.delete(zip());
        Session session = session();
        assertThatExceptionOfType(CancellationException.class)
                .isThrownBy(
                        () -> SessionPack.pack(session, root.resolve("song"), zip(), true, false, new StopsAt(0.4)));
        assertThat(zip()).doesNotExist();
        assertNothingElse();
    }
}
