package waterwheel.core.filefacts;

import com.fasterxml.jackson.databind.node.ArrayNode;
import com.fasterxml.jackson.databind.node.ObjectNode;
import java.nio.file.Path;
import java.util.function.IntToDoubleFunction;
import waterwheel.core.json.Json;
import waterwheel.core.metering.Figures;
import waterwheel.core.metering.LevelSeries;
import waterwheel.core.metering.Loudness;
import waterwheel.core.metering.Steps;

/** The document of measured files; its schema is measure in docs/schema. */
public final class FileReportJson {
    private FileReportJson() {}

    /**
     * One measured file.
     *
     * @param series whether readings over time are added
     */
    public static ObjectNode file(Path path, FileReport report, boolean series) {
        FileFacts facts = report.facts();
        Figures figures = report.figures();
        ObjectNode node = Json.object();
        node.put("path", path.toString());
        node.put("ok", true);
        node.putNull("error");
        node.put("frames", facts.format().frames());
        node.put("channels", facts.format().channels());
        ArrayNode speakers = node.putArray("speakers");
        facts.format().speakers().forEach(speaker -> speakers.add(speaker.label()));
        node.put("sampleRate", facts.format().sampleRateHz());
        node.put("format", facts.format().encoding().label());
        node.set("samplePeakDbfs", Json.figure(figures.samplePeakDbfs()));
        node.set("truePeakDbtp", Json.figure(figures.truePeakDbtp()));
        node.set("rmsDbfs", Json.figure(figures.rmsDbfs()));
        node.set("averageDbfs", Json.figure(figures.averageDbfs()));
        node.set("vuMaxDb", Json.figure(report.vuMaxDb()));
        node.set("integratedLufs", Json.figure(figures.integratedLufs()));
        node.set("momentaryMaxLufs", Json.figure(figures.momentaryMaxLufs()));
        node.set("shortTermMaxLufs", Json.figure(figures.shortTermMaxLufs()));
        node.set("loudnessRangeLu", Json.figure(figures.loudnessRangeLu()));
        node.set("crestDb", Json.figure(figures.crestDb()));
        node.set("dcOffset", Json.figure(facts.dcOffset(), 8));
        node.set("correlation", Json.figure(figures.correlation()));
        node.set("noiseFloorDbfs", Json.figure(figures.noiseFloorDbfs()));
        node.put("flattenedRuns", facts.flattenedRuns());
        node.put("flattenedSamples", facts.flattenedSamples());
        node.put("oversSamples", facts.oversSamples());
        if (series) {
            addSeries(node, report);
        }
        return node;
    }

    /** A file that cannot be read. */
    public static ObjectNode unreadable(String path, String error) {
        ObjectNode node = Json.object();
        node.put("path", path);
        node.put("ok", false);
        node.put("error", error);
        return node;
    }

    private static void addSeries(ObjectNode node, FileReport report) {
        LevelSeries series = report.series();
        double[] momentary = Loudness.momentaryLufs(series);
        double[] shortTerm = Loudness.shortTermLufs(series);
        VuSeries vu = report.vuSeries();
        addPairs(node.putArray("momentarySeries"), momentary.length, 40, i -> momentary[i]);
        addPairs(node.putArray("shortTermSeries"), shortTerm.length, 300, i -> shortTerm[i]);
        addPairs(node.putArray("vuSeries"), vu.count(), 1, vu::readingVu);
    }

    private static void addPairs(ArrayNode target, int count, int windowSteps, IntToDoubleFunction reading) {
        for (int i = 0; i < count; i++) {
            ArrayNode pair = target.addArray();
            pair.add(Json.figure((double) (i + windowSteps) / Steps.PER_SECOND, 2));
            pair.add(Json.figure(reading.applyAsDouble(i)));
        }
    }
}
