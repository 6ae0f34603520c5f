package waterwheel.core.json;

import com.fasterxml.jackson.databind.node.ArrayNode;
import com.fasterxml.jackson.databind.node.ObjectNode;
import java.nio.file.Path;
import java.util.Locale;
import java.util.Map;
import java.util.Optional;
import java.util.function.IntToDoubleFunction;
import waterwheel.core.filefacts.FileFacts;
import waterwheel.core.filefacts.FileReport;
import waterwheel.core.filefacts.VuSeries;
import waterwheel.core.levels.ChannelLevels;
import waterwheel.core.levels.SectionLevels;
import waterwheel.core.levels.SessionLevels;
import waterwheel.core.levels.StageLevel;
import waterwheel.core.levels.VcaLevel;
import waterwheel.core.metering.Figures;
import waterwheel.core.metering.LevelSeries;
import waterwheel.core.metering.Loudness;
import waterwheel.core.metering.Steps;
import waterwheel.core.session.Bus;
import waterwheel.core.session.Channel;
import waterwheel.core.session.ChannelId;
import waterwheel.core.session.Output;
import waterwheel.core.session.Session;
import waterwheel.core.session.Track;
import waterwheel.core.session.Vca;

/** The documents of measured files and of a session's levels; their schemas are measure and levels in docs/schema. */
public final class FiguresJson {
    private FiguresJson() {}

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

    /** The levels of every channel at every stage. */
    public static ObjectNode levels(SessionLevels levels) {
        ObjectNode node = levels(levels.session(), levels.channels());
        if (!levels.pairs().isEmpty()) {
            ArrayNode pairs = node.putArray("pairs");
            levels.pairs().entrySet().stream()
                    .sorted(Map.Entry.comparingByKey())
                    .forEach(pair -> {
                        ObjectNode one = pairs.addObject().put("name", new Output.ToInterface(pair.getKey()).label());
                        addLevels(one, pair.getValue());
                    });
        }
        return node;
    }

    /** The levels of every channel at every stage within a section. */
    public static ObjectNode levels(Session session, SectionLevels levels) {
        ObjectNode node = levels(session, levels.channels());
        node.putObject("section")
                .put("name", levels.section().name())
                .put("startFrames", levels.section().startFrames())
                .put("endFrames", levels.section().endFrames());
        return node;
    }

    private static ObjectNode levels(Session session, Map<ChannelId, ChannelLevels> levels) {
        ObjectNode node = Json.object();
        ArrayNode channels = node.putArray("channels");
        for (Channel channel : session.channels()) {
            ChannelLevels found = levels.get(channel.id());
            if (found != null) {
                channels.add(channel(channel, found));
            }
        }
        addVcas(node, session, levels);
        ChannelLevels main = levels.get(session.mainId());
        if (main != null) {
            node.set("main", channel(session.main(), main));
        }
        return node;
    }

    private static void addVcas(ObjectNode node, Session session, Map<ChannelId, ChannelLevels> levels) {
        if (session.vcas().isEmpty()) {
            return;
        }
        ArrayNode vcas = node.putArray("vcas");
        for (Vca vca : session.vcas()) {
            ObjectNode one = vcas.addObject().put("name", vca.name());
            VcaLevel.of(session, vca, id -> Optional.ofNullable(levels.get(id))).ifPresent(level -> {
                one.put("loudest", level.loudest().value());
                ArrayNode sides = one.putArray("sides");
                level.sides().forEach(side -> addLevels(sides.addObject(), side));
            });
        }
    }

    private static ObjectNode channel(Channel channel, ChannelLevels levels) {
        ObjectNode node = Json.object();
        node.put("id", channel.id().value());
        node.put("name", channel.name());
        node.put(
                "kind",
                switch (channel) {
                    case Track track -> track.kind().label();
                    case Bus _ -> "bus";
                });
        ArrayNode stages = node.putArray("stages");
        for (StageLevel level : levels.stages()) {
            ObjectNode stage = stages.addObject();
            stage.put("stage", level.stage().label().toLowerCase(Locale.ROOT));
            if (!level.part().isEmpty()) {
                stage.put("slot", level.part());
            }
            addLevels(stage, level.figures());
        }
        return node;
    }

    /** Adds the figures that every level has: peak with its place, true peak, average, loudness. */
    public static void addLevels(ObjectNode node, Figures figures) {
        node.set("samplePeakDbfs", Json.figure(figures.samplePeakDbfs()));
        node.set("peakAtSeconds", Json.figure(figures.peakAtSeconds()));
        node.set("truePeakDbtp", Json.figure(figures.truePeakDbtp()));
        node.set("averageDbfs", Json.figure(figures.averageDbfs()));
        node.set("integratedLufs", Json.figure(figures.integratedLufs()));
    }
}
