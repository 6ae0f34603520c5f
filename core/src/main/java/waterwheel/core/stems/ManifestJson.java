package waterwheel.core.stems;

import com.fasterxml.jackson.databind.node.ArrayNode;
import com.fasterxml.jackson.databind.node.ObjectNode;
import java.util.List;
import java.util.Optional;
import waterwheel.core.json.Json;
import waterwheel.core.levels.LevelsJson;
import waterwheel.core.metering.Figures;

/** The manifest that lies beside rendered stems; its schema is stems in docs/schema. */
public final class ManifestJson {
    /** What the document calls itself. */
    static final String FORMAT = "waterwheel-stems";

    private ManifestJson() {}

    /** @param complete whether every file lies under its name */
    static String text(StemResult result, boolean complete) {
        return Json.pretty(of(result, complete));
    }

    /** The manifest of a finished render. */
    public static ObjectNode of(StemResult result) {
        return of(result, true);
    }

    private static ObjectNode of(StemResult result, boolean complete) {
        StemProof proof = result.proof();
        StemSettings settings = result.request().settings();
        ObjectNode node = Json.object();
        node.put("format", FORMAT);
        node.put("version", 1);
        node.put("complete", complete);
        if (result.request().incomplete()) {
            node.put("incomplete", true);
        }
        node.put("title", result.session().title());
        node.put("sampleRate", result.session().sampleRateHz());
        node.put("division", settings.division().by().label());
        node.put("returnsApart", settings.division().returnsApart());
        node.put("treatment", settings.treatment().label());
        node.put("tap", settings.tap().label());
        node.put("startFrames", settings.fromFrame());
        settings.only().ifPresent(section -> node.put("section", section.name()));
        node.put("frames", result.frames());
        node.put("encoding", result.request().format().label());
        node.put("dither", result.request().format().encoding().fixedPoint() ? "TPDF" : "none");
        node.put("policy", result.request().policy().inWords());
        node.set("gainDb", Json.figure(result.forecast().gainDb()));
        ArrayNode files = node.putArray("files");
        for (StemResult.Written written : result.files()) {
            ObjectNode file = files.addObject();
            file.put("path", written.path());
            file.put("name", written.name());
            file.put("role", written.role().label());
            file.put("inMix", written.role() != StemResult.Role.CUE);
            Optional.ofNullable(proof.files().get(written.path())).ifPresent(f -> addFigures(file, f));
            file.set("gainDb", Json.figure(written.gainDb()));
            file.put("sides", written.mono() ? 1 : 2);
            file.put("limitedSamples", written.limitedSamples());
            file.put("key", written.key());
            file.put("sha256", written.checksum());
            file.put("upToDate", written.upToDate());
        }
        ArrayNode leftOut = node.putArray("leftOut");
        result.forecast().stems().stream()
                .filter(StemForecast.Stem::silent)
                .forEach(stem -> leftOut.addObject().put("name", stem.name()).put("reason", "silent"));
        putTexts(node.putArray("swept"), result.swept());
        putTexts(node.putArray("leftBehind"), result.leftBehind());
        ObjectNode proven = node.putObject("proof");
        proven.put("holds", proof.holds());
        proven.put("sameLength", proof.sameLength());
        proven.put("samplesAtLimit", proof.samplesAtLimit());
        proven.put("nulls", proof.nulls());
        proven.set("residualPeakDbfs", Json.figure(proof.residualPeakDbfs()));
        proven.set("resolutionDbfs", Json.figure(proof.resolutionDbfs()));
        proven.put("nonFiniteSamples", proof.nonFiniteSamples());
        putTexts(proven.putArray("processedTogether"), proof.processedTogether());
        proven.put("sentence", proof.inWords());
        return node;
    }

    private static void putTexts(ArrayNode array, List<String> texts) {
        texts.forEach(array::add);
    }

    private static void addFigures(ObjectNode file, Figures figures) {
        LevelsJson.addLevels(file, figures);
        file.set("headroomDb", Json.figure(figures.headroomDb()));
    }
}
