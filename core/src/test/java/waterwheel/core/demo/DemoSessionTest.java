package waterwheel.core.demo;

import static org.assertj.core.api.Assertions.assertThat;

import java.nio.file.Files;
import java.nio.file.Path;
import java.security.MessageDigest;
import java.util.HexFormat;
import java.util.Map;
import java.util.TreeMap;
import org.junit.jupiter.api.DisplayNameGeneration;
import org.junit.jupiter.api.DisplayNameGenerator;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import waterwheel.core.findings.Finding;
import waterwheel.core.findings.Findings;
import waterwheel.core.levels.SessionLevels;
import waterwheel.core.levels.SessionMeasurement;
import waterwheel.core.session.Session;
import waterwheel.core.store.SessionFolder;
import waterwheel.core.work.Progress;

@DisplayNameGeneration(DisplayNameGenerator.ReplaceUnderscores.class)
class DemoSessionTest {
    @TempDir
    Path folder;

    private static Map<String, String> digests(Path session) throws Exception {
        Map<String, String> all = new TreeMap<>();
        try (var files = Files.walk(session)) {
            for (Path file : files.filter(Files::isRegularFile).toList()) {
                byte[] digest = MessageDigest.getInstance("SHA-256").digest(Files.readAllBytes(file));
                all.put(session.relativize(file).toString(), HexFormat.of().formatHex(digest));
            }
        }
        return all;
    }

    @Test
    void the_demo_is_the_same_bytes_each_time_and_carries_its_faults() throws Exception {
        Path first = folder.resolve("first");
        Path second = folder.resolve("second");
        DemoSession.writeIfMissing(first, Progress.NONE);
        DemoSession.writeIfMissing(second, Progress.NONE);
        assertThat(digests(second)).isEqualTo(digests(first));

        Session session = SessionFolder.load(first).session();
        assertThat(session.tracks()).hasSizeBetween(20, 26);
        assertThat(session.lengthFrames()).isEqualTo(120 * 48_000L);
        SessionLevels levels = SessionMeasurement.of(session, first, Progress.NONE);
        assertThat(Findings.of(levels))
                .extracting(Finding::rule)
                .containsExactlyInAnyOrder(
                        Finding.Rule.FLATTENED_SAMPLES,
                        Finding.Rule.MAIN_OVER_FULL_SCALE,
                        Finding.Rule.BALANCE_LOSES_CONTENT,
                        Finding.Rule.DOUBLE_PATH,
                        Finding.Rule.PORT_TWICE,
                        Finding.Rule.UNIT_LEVEL,
                        Finding.Rule.LOOP_NOT_TIMED,
                        Finding.Rule.HARMLESS_OVERS,
                        Finding.Rule.COARSE_FADER);
        assertThat(levels.main().orElseThrow().headroomDb()).isNegative();
    }
}
