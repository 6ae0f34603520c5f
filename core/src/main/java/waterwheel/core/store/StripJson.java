package waterwheel.core.store;

import com.fasterxml.jackson.databind.node.ArrayNode;
import com.fasterxml.jackson.databind.node.ObjectNode;
import java.util.ArrayList;
import java.util.List;
import java.util.Locale;
import java.util.Optional;
import waterwheel.core.inserts.Insert;
import waterwheel.core.inserts.Parameter;
import waterwheel.core.inserts.Processor;
import waterwheel.core.inserts.ProcessorKind;
import waterwheel.core.inserts.SlotId;
import waterwheel.core.processing.Processors;
import waterwheel.core.rack.Loop;
import waterwheel.core.session.ChannelId;
import waterwheel.core.session.Freeze;
import waterwheel.core.session.Gains;
import waterwheel.core.session.Output;
import waterwheel.core.session.Placement;
import waterwheel.core.session.Routing;
import waterwheel.core.session.Send;
import waterwheel.core.session.Strip;
import waterwheel.core.session.Switches;
import waterwheel.core.sources.SourceId;
import waterwheel.core.store.SessionJson.Problem;

/** What all channels have in common, in the session file. What a channel has none of is left out. */
final class StripJson {
    private StripJson() {}

    static void write(ObjectNode node, Strip strip) {
        node.put("polarityInverted", strip.polarityInverted());
        node.put("trimDb", strip.trimDb());
        putLevel(node, "faderDb", strip.faderDb());
        write(node.putObject("placement"), strip.placement());
        node.put("muted", strip.muted());
        node.put("soloed", strip.soloed());
        node.put("soloSafe", strip.soloSafe());
        RidesJson.write(node, strip.rides());
        switch (strip.output()) {
            case Output.ToBus(ChannelId bus) -> node.put("output", bus.value());
            case Output.ToInterface(int pair) -> node.putNull("output").put("interfacePair", pair);
            case Output.Nowhere() -> node.putNull("output");
        }
        if (!strip.extraOutputs().isEmpty()) {
            ArrayNode extra = node.putArray("extraOutputs");
            strip.extraOutputs().forEach(bus -> extra.add(bus.value()));
        }
        if (!strip.inserts().isEmpty()) {
            ArrayNode inserts = node.putArray("inserts");
            strip.inserts().forEach(insert -> write(inserts.addObject(), insert));
        }
        if (!strip.sends().isEmpty()) {
            ArrayNode sends = node.putArray("sends");
            strip.sends().forEach(send -> write(sends.addObject(), send));
        }
        strip.freeze().ifPresent(freeze -> {
            ObjectNode frozen = node.putObject("freeze");
            freeze.through().ifPresent(slot -> frozen.put("through", slot.value()));
            frozen.put("source", freeze.source().value()).put("madeOf", freeze.madeOf());
        });
    }

    /** A level where null is silence. */
    static void putLevel(ObjectNode node, String name, double db) {
        if (db == Double.NEGATIVE_INFINITY) {
            node.putNull(name);
        } else {
            node.put(name, db);
        }
    }

    private static void write(ObjectNode node, Placement placement) {
        node.put("position", placement.position());
        node.put("width", placement.width());
        node.put("mode", word(placement.mode()));
    }

    private static void write(ObjectNode node, Insert insert) {
        node.put("slot", insert.id().value());
        node.put("kind", insert.processor().kind().key());
        node.put("bypassed", insert.bypassed());
        node.put("inputDb", insert.inputDb());
        node.put("outputDb", insert.outputDb());
        node.put("mix", insert.mix());
        insert.processor().response().ifPresent(source -> node.put("response", source.value()));
        LoopJson.write(node, insert.processor().loop());
        writeSettings(node.putObject("settings"), insert.processor());
        RidesJson.write(node, insert.rides());
    }

    static void writeSettings(ObjectNode settings, Processor processor) {
        for (Parameter parameter : processor.kind().parameters()) {
            settings.put(parameter.key(), processor.value(parameter.key()));
        }
    }

    /** A setting that is not there has its usual value, so that a kind may gain one. */
    static List<Double> settings(JsonFields settings, ProcessorKind kind) throws Problem {
        List<Double> values = new ArrayList<>();
        for (Parameter parameter : kind.parameters()) {
            values.add(
                    settings.has(parameter.key())
                            ? settings.number(parameter.key(), parameter.least(), parameter.most())
                            : parameter.usual());
        }
        settings.close();
        return values;
    }

    static void write(ObjectNode node, Send send) {
        node.put("to", send.target().channel().value());
        if (send.target() instanceof Send.ToKey key) {
            node.put("key", key.slot().value());
        }
        putLevel(node, "levelDb", send.levelDb());
        send.placement().ifPresent(placement -> write(node.putObject("placement"), placement));
        node.put("preFader", send.preFader());
        node.put("on", send.on());
        RidesJson.write(node, send.rides());
    }

    static Strip read(JsonFields fields) throws Problem {
        Gains gains = new Gains(
                fields.flag("polarityInverted"),
                fields.number("trimDb", -Strip.TRIM_LIMIT_DB, Strip.TRIM_LIMIT_DB),
                fields.levelOrSilence("faderDb", Strip.FADER_TOP_DB),
                placement(fields.object("placement")));
        Switches switches = new Switches(fields.flag("muted"), fields.flag("soloed"), fields.flag("soloSafe"));
        Output output = output(fields);
        List<Insert> inserts = fields.has("inserts") ? fields.list("inserts", StripJson::insert) : List.of();
        List<Send> sends = fields.has("sends") ? fields.list("sends", StripJson::send) : List.of();
        List<ChannelId> extra = fields.has("extraOutputs")
                ? fields.texts("extraOutputs").stream().map(ChannelId::new).toList()
                : List.of();
        return new Strip(
                gains,
                inserts,
                switches,
                new Routing(output, extra, sends),
                RidesJson.read(fields, Strip.controls()),
                fields.has("freeze") ? Optional.of(freeze(fields.object("freeze"))) : Optional.empty());
    }

    private static Freeze freeze(JsonFields fields) throws Problem {
        Freeze freeze = new Freeze(
                fields.has("through") ? Optional.of(new SlotId(fields.text("through"))) : Optional.empty(),
                new SourceId(fields.text("source")),
                fields.text("madeOf"));
        fields.close();
        return freeze;
    }

    private static Output output(JsonFields fields) throws Problem {
        if (fields.has("interfacePair")) {
            if (!fields.isNull("output")) {
                throw new Problem("The channel " + fields.text("id") + " has both an output and an interface pair.");
            }
            return new Output.ToInterface((int) fields.count("interfacePair", 2, Output.PAIRS));
        }
        return fields.isNull("output") ? new Output.Nowhere() : Output.to(new ChannelId(fields.text("output")));
    }

    private static Placement placement(JsonFields fields) throws Problem {
        Placement placement = new Placement(
                fields.number("position", -1, 1),
                fields.number("width", 0, 2),
                fields.oneOf("mode", Placement.Mode.values(), StripJson::word));
        fields.close();
        return placement;
    }

    private static Insert insert(JsonFields fields) throws Problem {
        ProcessorKind kind = fields.oneOf("kind", Processors.kinds().toArray(ProcessorKind[]::new), ProcessorKind::key);
        List<Double> values = settings(fields.object("settings"), kind);
        Insert insert = new Insert(
                new SlotId(fields.text("slot")),
                new Processor(
                        kind,
                        values,
                        kind.responds() && fields.has("response")
                                ? Optional.of(new SourceId(fields.text("response")))
                                : Optional.empty(),
                        kind.loops() ? LoopJson.read(fields) : Loop.NONE),
                fields.flag("bypassed"),
                fields.number("inputDb", -Insert.GAIN_LIMIT_DB, Insert.GAIN_LIMIT_DB),
                fields.number("outputDb", -Insert.GAIN_LIMIT_DB, Insert.GAIN_LIMIT_DB),
                fields.number("mix", 0, 1));
        return insert.withRides(RidesJson.read(fields, insert.controls()));
    }

    static Send send(JsonFields fields) throws Problem {
        ChannelId to = new ChannelId(fields.text("to"));
        Send send = new Send(
                fields.has("key") ? new Send.ToKey(to, new SlotId(fields.text("key"))) : new Send.ToBus(to),
                fields.levelOrSilence("levelDb", Strip.FADER_TOP_DB),
                fields.has("placement") ? Optional.of(placement(fields.object("placement"))) : Optional.empty(),
                fields.flag("preFader"),
                fields.flag("on"));
        return send.withRides(RidesJson.read(fields, send.controls()));
    }

    static String word(Enum<?> constant) {
        return constant.name().toLowerCase(Locale.ROOT);
    }
}
