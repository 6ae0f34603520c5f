package waterwheel.core.stems;

import static org.assertj.core.api.Assertions.assertThat;

import java.nio.file.Files;
import java.nio.file.Path;
import java.security.MessageDigest;
import java.util.HexFormat;
import java.util.List;
import java.util.stream.Collectors;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.DisplayNameGeneration;
import org.junit.jupiter.api.DisplayNameGenerator;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import waterwheel.core.audiofile.RenderFormat;
import waterwheel.core.inserts.Insert;
import waterwheel.core.inserts.SlotId;
import waterwheel.core.processing.Compressor;
import waterwheel.core.session.Session;
import waterwheel.core.session.Track;
import waterwheel.core.testing.Sessions;
import waterwheel.core.testing.Signals;
import waterwheel.core.work.Progress;

/** Only what changed is rendered again, and what is said of a file is true of it. */
@DisplayNameGeneration(DisplayNameGenerator.ReplaceUnderscores.class)
class StemFilesTest {
    private static final int FRAMES = 20_000;

    @TempDir
    Path folder;

    private Path out;
    private Session session;

    @BeforeEach
    void a_small_band() throws Exception {
        out = folder.resolve("stems");
        session = new Sessions(folder)
                .bus("group", "main")
                .track("one", "group", Signals.noise(0.3, FRAMES, 1))
                .track("two", "group", Signals.noise(0.2, FRAMES, 2))
                .track("three", "main", Signals.noise(0.2, FRAMES, 3))
                .build();
    }

    private StemResult render(RenderFormat format, StemSettings settings) throws Exception {
        return StemRender.render(
                session,
                folder,
                new StemRequest(out, format, new LevelPolicy.AsMixed(), true).with(settings),
                Progress.NONE);
    }

    private StemResult render() throws Exception {
        return render(RenderFormat.WAV_24, StemSettings.USUAL);
    }

    private static List<String> rendered(StemResult result) {
        return result.files().stream()
                .filter(file -> !file.upToDate())
                .map(StemResult.Written::name)
                .toList();
    }

    private String bytes() throws Exception {
        try (var files = Files.walk(out)) {
            return files.filter(file -> file.toString().endsWith(".wav"))
                    .sorted()
                    .map(StemFilesTest::sha256)
                    .collect(Collectors.joining(" "));
        }
    }

    private static String sha256(Path file) {
        try {
            byte[] digest = MessageDigest.getInstance("SHA-256").digest(Files.readAllBytes(file));
            return HexFormat.of().formatHex(digest);
        } catch (Exception e) {
            throw new IllegalStateException(e);
        }
    }

    @Test
    void what_did_not_change_is_not_rendered_again_and_is_the_same_to_the_byte() throws Exception {
        assertThat(rendered(render())).containsExactly("Mix", "one", "two", "three");
        String first = bytes();
        StemResult again = render();
        assertThat(again.upToDate()).isEqualTo(4);
        assertThat(again.proof().nulls()).isTrue();
        assertThat(bytes()).isEqualTo(first);
        session = session.withStrip(Sessions.id("two"), s -> s.withFaderDb(-3));
        StemResult moved = render();
        assertThat(rendered(moved)).containsExactly("Mix", "two");
        assertThat(moved.proof().nulls()).isTrue();
        assertThat(rendered(render(RenderFormat.WAV_32F, StemSettings.USUAL))).hasSize(4);
    }

    @Test
    void what_the_whole_turns_down_changes_with_the_whole() throws Exception {
        session = session.withStrip(
                Sessions.id("group"), s -> s.withInserts(List.of(Insert.of(new SlotId("1"), Compressor.KIND))));
        render();
        session = session.withStrip(Sessions.id("two"), s -> s.withFaderDb(-3));
        assertThat(rendered(render())).containsExactly("Mix", "one", "two");
        StemSettings alone = StemSettings.USUAL.withTreatment(Treatment.ALONE);
        assertThat(rendered(render(RenderFormat.WAV_24, alone))).containsExactly("one", "two");
        session = session.withStrip(Sessions.id("two"), s -> s.withFaderDb(-6));
        assertThat(rendered(render(RenderFormat.WAV_24, alone))).containsExactly("Mix", "two");
    }

    @Test
    void a_file_that_was_changed_or_renamed_since_is_put_right() throws Exception {
        render();
        String first = bytes();
        byte[] damaged = Files.readAllBytes(out.resolve("01 one.wav"));
        damaged[damaged.length - 9]++;
        Files.write(out.resolve("01 one.wav"), damaged);
        assertThat(rendered(render())).containsExactly("one");
        assertThat(bytes()).isEqualTo(first);
        // Another order gives the files other numbers, and leaves their sound.
        session = session.withChannels(session.channels().reversed());
        StemResult turned = render();
        assertThat(rendered(turned)).doesNotContain("one", "two", "three");
        assertThat(turned.files().get(1).path()).isEqualTo("01 three.wav");
        assertThat(out.resolve("01 one.wav")).doesNotExist();
    }

    @Test
    void a_source_that_was_replaced_is_never_taken_for_the_old_one() throws Exception {
        render();
        Track track = session.tracks().getFirst();
        Path file = folder.resolve(track.name() + ".wav");
        Files.delete(file);
        Signals.wav(
                file, Sessions.RATE, waterwheel.core.audiofile.SampleEncoding.FLOAT_32, Signals.noise(0.3, FRAMES, 9));
        assertThat(rendered(render())).containsExactly("Mix", "one");
    }

    @Test
    void the_checksums_are_those_of_the_files() throws Exception {
        StemResult result = render();
        List<String> lines = Files.readAllLines(out.resolve(StemRender.CHECKSUMS));
        assertThat(lines).hasSize(result.files().size());
        for (String line : lines) {
            String[] parts = line.split("  ", 2);
            assertThat(parts[0]).isEqualTo(sha256(out.resolve(parts[1])));
        }
    }

    @Test
    void before_main_nothing_of_the_main_bus_is_heard() throws Exception {
        StemSettings before = StemSettings.USUAL.withTap(StemTap.BEFORE_MAIN);
        StemResult plain = render(RenderFormat.WAV_32F, before);
        session = session.withStrip(
                Sessions.MAIN,
                s -> s.withFaderDb(-7).withTrimDb(3).withInserts(List.of(Insert.of(new SlotId("1"), Compressor.KIND))));
        StemResult processed = render(RenderFormat.WAV_32F, before);
        assertThat(rendered(plain)).hasSize(4);
        assertThat(rendered(processed)).isEmpty();
        assertThat(rendered(render(RenderFormat.WAV_32F, StemSettings.USUAL))).hasSize(4);
    }
}
