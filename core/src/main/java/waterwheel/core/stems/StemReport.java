package waterwheel.core.stems;

import com.samskivert.mustache.Mustache;
import java.io.IOException;
import java.io.InputStream;
import java.io.UncheckedIOException;
import java.nio.charset.StandardCharsets;
import java.util.List;
import java.util.Map;
import java.util.Objects;
import waterwheel.core.metering.Figures;
import waterwheel.core.units.LevelText;

/** The readable report that lies beside rendered stems. */
final class StemReport {
    private StemReport() {}

    static String html(StemResult result) {
        List<Map<String, String>> rows = result.files().stream()
                .map(file ->
                        row(file, Objects.requireNonNull(result.proof().files().get(file.path()))))
                .toList();
        List<String> leftOut = result.forecast().stems().stream()
                .filter(StemForecast.Stem::silent)
                .map(StemForecast.Stem::name)
                .toList();
        return Mustache.compiler()
                .compile(template())
                .execute(Map.of(
                        "title", result.session().title(),
                        "format", result.request().format().label(),
                        "rate", result.session().sampleRateHz() + " Hz",
                        "length",
                                LevelText.time((double) result.frames()
                                        / result.session().sampleRateHz()),
                        "policy", result.request().policy().inWords(),
                        "gain", LevelText.change(result.forecast().gainDb()),
                        "verdict", result.proof().holds() ? "Proof holds" : "Proof fails",
                        "proof", result.proof().inWords(),
                        "files", rows,
                        "leftOut", leftOut.isEmpty() ? "none" : String.join(", ", leftOut)));
    }

    private static Map<String, String> row(StemResult.Written file, Figures figures) {
        return Map.of(
                "path", file.path(),
                "name", file.name(),
                "role",
                        file.role() == StemResult.Role.CUE
                                ? "cue, not in the mix"
                                : file.role().label(),
                "peak", LevelText.level(figures.samplePeakDbfs(), "dBFS"),
                "truePeak", LevelText.level(figures.truePeakDbtp(), "dBTP"),
                "headroom", LevelText.signed(figures.headroomDb(), 1, true) + " dB",
                "average", LevelText.level(figures.averageDbfs(), "dBFS"),
                "loudness", LevelText.level(figures.integratedLufs(), "LUFS"));
    }

    private static String template() {
        try (InputStream in = StemReport.class.getResourceAsStream("stem-report.html")) {
            return new String(Objects.requireNonNull(in).readAllBytes(), StandardCharsets.UTF_8);
        } catch (IOException e) {
            throw new UncheckedIOException("The report's template cannot be read", e);
        }
    }
}
