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
    /** What lies at the bottom of the pictures. */
    private static final double LEVEL_FLOOR_DBFS = -60;

    private static final double RESIDUAL_FLOOR_DBFS = -180;
    private static final int LEVEL_HEIGHT = 24;
    private static final int RESIDUAL_HEIGHT = 60;

    private StemReport() {}

    static String html(StemResult result) {
        List<Map<String, String>> rows =
                result.files().stream().map(file -> row(file, result.proof())).toList();
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
                        Map.entry("stretch", stretch(result)),
                        Map.entry("slices", String.valueOf(LevelTrace.SLICES)),
                        Map.entry("residual", residual(result.proof())),
                        Map.entry("limit", limit(result.proof())),
                        Map.entry("verdict", result.proof().holds() ? "Proof holds" : "Proof fails"),
                        Map.entry("proof", result.proof().inWords()),
                        Map.entry("files", rows),
                        Map.entry("leftOut", leftOut.isEmpty() ? "none" : String.join(", ", leftOut)),
                        Map.entry("earlier", earlier(result))));
    }

    private static String stretch(StemResult result) {
        StemSettings settings = result.request().settings();
        return settings.only().map(section -> section.name() + " · ").orElse("");
    }

    private static String residual(StemProof proof) {
        return proof.traces().residual().path(RESIDUAL_FLOOR_DBFS, 0, RESIDUAL_HEIGHT);
    }

    /** Where the format's resolution lies in the picture, from its top. */
    private static String limit(StemProof proof) {
        double part = Math.clamp(proof.resolutionDbfs() / RESIDUAL_FLOOR_DBFS, 0, 1);
        return String.valueOf(Math.round(part * RESIDUAL_HEIGHT));
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

    private static Map<String, String> row(StemResult.Written file, StemProof proof) {
        Figures figures = Objects.requireNonNull(proof.files().get(file.path()));
        LevelTrace trace = Objects.requireNonNull(proof.traces().files().get(file.path()));
        return Map.of(
                "level",
                trace.path(LEVEL_FLOOR_DBFS, 0, LEVEL_HEIGHT),
                "path",
                file.path(),
                "gain",
                LevelText.change(file.gainDb()),
                "name",
                file.name(),
                "role",
                file.role() == StemResult.Role.CUE
                        ? "cue, not in the mix"
                        : file.role().label() + (file.mono() ? ", one side" : ""),
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
