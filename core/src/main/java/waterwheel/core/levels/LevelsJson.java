package waterwheel.core.levels;

import com.fasterxml.jackson.databind.node.ArrayNode;
import com.fasterxml.jackson.databind.node.ObjectNode;
import java.util.Locale;
import java.util.Map;
import java.util.Optional;
import waterwheel.core.json.Json;
import waterwheel.core.metering.Figures;
import waterwheel.core.session.Bus;
import waterwheel.core.session.Channel;
import waterwheel.core.session.ChannelId;
import waterwheel.core.session.Output;
import waterwheel.core.session.Session;
import waterwheel.core.session.Track;
import waterwheel.core.session.Vca;

/** The document of a session's levels; its schema is levels in docs/schema. */
public final class LevelsJson {
    private LevelsJson() {}

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
