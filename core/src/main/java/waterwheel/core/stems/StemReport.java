package waterwheel.core.stems;

import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.Objects;
import waterwheel.core.metering.Figures;
import waterwheel.core.units.LevelText;
import waterwheel.core.work.Page;

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
        return Page.filled(
                StemReport.class,
                "stem-report.html",
                Map.ofEntries(
                        Map.entry("title", result.session().title()),
                        Map.entry("format", result.request().format().label()),
                        Map.entry("rate", result.session().sampleRateHz() + " Hz"),
                        Map.entry(
                                "length",
                                LevelText.time((double) result.frames()
                                        / result.session().sampleRateHz())),
                        Map.entry("policy", result.request().policy().inWords()),
                        Map.entry("gain", LevelText.change(result.forecast().gainDb())),
                        Map.entry("verdict", result.proof().holds() ? "Proof holds" : "Proof fails"),
                        Map.entry("proof", result.proof().inWords()),
                        Map.entry("files", rows),
                        Map.entry("leftOut", leftOut.isEmpty() ? "none" : String.join(", ", leftOut)),
                        Map.entry("earlier", earlier(result))));
    }

    /** What became of files of the render before. */
    private static String earlier(StemResult result) {
        List<String> said = new ArrayList<>();
        if (!result.swept().isEmpty()) {
            said.add("Removed, because the session has them no more: " + String.join(", ", result.swept()) + ".");
        }
        if (!result.leftBehind().isEmpty()) {
            said.add("Not of this render, and not Waterwheel's to remove: " + String.join(", ", result.leftBehind())
                    + ".");
        }
        return String.join(" ", said);
    }

    private static Map<String, String> row(StemResult.Written file, Figures figures) {
        return Map.of(
                "path",
                file.path(),
                "gain",
                LevelText.change(file.gainDb()),
                "name",
                file.name(),
                "role",
                file.role() == StemResult.Role.CUE
                        ? "cue, not in the mix"
                        : file.role().label(),
                "peak",
                LevelText.level(figures.samplePeakDbfs(), "dBFS"),
                "truePeak",
                LevelText.level(figures.truePeakDbtp(), "dBTP"),
                "headroom",
                LevelText.signed(figures.headroomDb(), 1, true) + " dB",
                "average",
                LevelText.level(figures.averageDbfs(), "dBFS"),
                "loudness",
                LevelText.level(figures.integratedLufs(), "LUFS"));
    }
}
