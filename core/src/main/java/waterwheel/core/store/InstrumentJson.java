package waterwheel.core.store;

import com.fasterxml.jackson.databind.node.ArrayNode;
import com.fasterxml.jackson.databind.node.ObjectNode;
import java.util.ArrayList;
import java.util.List;
import waterwheel.core.instruments.Instrument;
import waterwheel.core.instruments.Region;
import waterwheel.core.instruments.SynthParameter;
import waterwheel.core.notes.Note;
import waterwheel.core.notes.NoteChange;
import waterwheel.core.notes.Notes;
import waterwheel.core.notes.Tempo;
import waterwheel.core.session.ChannelId;
import waterwheel.core.session.Feed;
import waterwheel.core.sources.SourceId;
import waterwheel.core.store.SessionJson.Problem;

/** What plays notes, and the notes, in the session file. */
final class InstrumentJson {
    private InstrumentJson() {}

    static void write(ObjectNode node, Feed feed) {
        switch (feed) {
            case Feed.Played played -> {
                ObjectNode entry = node.putObject("played");
                write(entry.putObject("instrument"), played.instrument());
                entry.put("output", played.output());
                write(entry, played.notes());
            }
            case Feed.Output(ChannelId player, int output) ->
                node.putObject("outputOf").put("channel", player.value()).put("output", output);
            case Feed.Clips _, Feed.Tapped _, Feed.Input _ -> {}
        }
    }

    private static void write(ObjectNode node, Instrument instrument) {
        node.put("name", instrument.name());
        switch (instrument) {
            case Instrument.Sampler sampler -> {
                node.put("type", "samples");
                ArrayNode regions = node.putArray("regions");
                sampler.regions().forEach(region -> write(regions.addObject(), region));
            }
            case Instrument.Synth synth ->
                node.put("type", "struck")
                        .put("decaySeconds", synth.decaySeconds())
                        .put("brightness", synth.brightness())
                        .put("damping", synth.damping())
                        .put("stiffness", synth.stiffness())
                        .put("position", synth.position())
                        .put("strike", synth.strike())
                        .put("releaseSeconds", synth.releaseSeconds());
        }
    }

    private static void write(ObjectNode node, Region region) {
        node.put("source", region.source().value())
                .put("lowKey", region.lowKey())
                .put("highKey", region.highKey())
                .put("lowVelocity", region.lowVelocity())
                .put("highVelocity", region.highVelocity())
                .put("centreKey", region.centreKey())
                .put("tuneCents", region.tuneCents())
                .put("loop", region.loop().label())
                .put("loopStart", region.loopStart())
                .put("loopEnd", region.loopEnd())
                .put("releaseSeconds", region.releaseSeconds())
                .put("volumeDb", region.volumeDb())
                .put("pan", region.pan())
                .put("turn", region.turn())
                .put("turns", region.turns())
                .put("output", region.output());
    }

    private static void write(ObjectNode node, Notes notes) {
        ArrayNode list = node.putArray("notes");
        for (Note note : notes.notes()) {
            list.addObject()
                    .put("at", note.startFrames())
                    .put("for", note.lengthFrames())
                    .put("key", note.key())
                    .put("velocity", note.velocity());
        }
        if (!notes.changes().isEmpty()) {
            ArrayNode changes = node.putArray("changes");
            notes.changes().forEach(change -> changes.addObject()
                    .put("at", change.frame())
                    .put("kind", change.kind().label())
                    .put("value", change.value()));
        }
        ArrayNode tempo = node.putArray("tempo");
        notes.tempo().changes().forEach(change -> tempo.addObject()
                .put("at", change.frame())
                .put("beat", change.beat())
                .put("framesPerBeat", change.framesPerBeat()));
    }

    static Feed.Played played(JsonFields fields) throws Problem {
        JsonFields instrument = fields.object("instrument");
        Feed.Played played = new Feed.Played(
                instrument(instrument), notes(fields), (int) fields.count("output", 1, Instrument.MOST_OUTPUTS));
        instrument.close();
        fields.close();
        return played;
    }

    static Feed.Output output(JsonFields fields) throws Problem {
        Feed.Output output = new Feed.Output(
                new ChannelId(fields.text("channel")), (int) fields.count("output", 1, Instrument.MOST_OUTPUTS));
        fields.close();
        return output;
    }

    private static Instrument instrument(JsonFields fields) throws Problem {
        String name = fields.text("name");
        String type = fields.text("type");
        return switch (type) {
            case "samples" -> new Instrument.Sampler(name, fields.list("regions", InstrumentJson::region));
            case "struck" ->
                new Instrument.Synth(
                        name,
                        setting(fields, "decaySeconds", 0),
                        setting(fields, "brightness", 1),
                        setting(fields, "damping", 2),
                        setting(fields, "stiffness", 3),
                        setting(fields, "position", 4),
                        setting(fields, "strike", 5),
                        setting(fields, "releaseSeconds", 6));
            default ->
                throw new Problem(
                        "An instrument is of a type that this version does not know.",
                        "Open the session with the Waterwheel that made it.");
        };
    }

    private static double setting(JsonFields fields, String name, int parameter) throws Problem {
        SynthParameter range = Instrument.Synth.PARAMETERS.get(parameter);
        return fields.number(name, range.least(), range.most());
    }

    private static Region region(JsonFields fields) throws Problem {
        int turns = (int) fields.count("turns", 1, 100);
        return new Region(
                new SourceId(fields.text("source")),
                (int) fields.count("lowKey", 0, 127),
                (int) fields.count("highKey", 0, 127),
                (int) fields.count("lowVelocity", 0, 127),
                (int) fields.count("highVelocity", 0, 127),
                (int) fields.count("centreKey", -24, 151),
                fields.number("tuneCents", -12_800, 12_800),
                fields.oneOf("loop", Region.Loop.values(), Region.Loop::label),
                fields.count("loopStart", 0, SessionJson.MOST_FRAMES),
                fields.count("loopEnd", 0, SessionJson.MOST_FRAMES),
                fields.number("releaseSeconds", 0, 100),
                fields.number("volumeDb", -144, 24),
                fields.number("pan", -1, 1),
                (int) fields.count("turn", 1, turns),
                turns,
                (int) fields.count("output", 1, Instrument.MOST_OUTPUTS));
    }

    private static Notes notes(JsonFields fields) throws Problem {
        List<Note> notes = new ArrayList<>(fields.list("notes", InstrumentJson::note));
        return new Notes(
                notes,
                fields.has("changes") ? fields.list("changes", InstrumentJson::change) : List.of(),
                new Tempo(fields.list("tempo", InstrumentJson::tempo)));
    }

    private static Note note(JsonFields fields) throws Problem {
        return new Note(
                fields.count("at", 0, SessionJson.MOST_FRAMES),
                fields.count("for", 1, SessionJson.MOST_FRAMES),
                (int) fields.count("key", 0, 127),
                (int) fields.count("velocity", 1, 127));
    }

    private static NoteChange change(JsonFields fields) throws Problem {
        NoteChange.Kind kind = fields.oneOf("kind", NoteChange.Kind.values(), NoteChange.Kind::label);
        return new NoteChange(fields.count("at", 0, SessionJson.MOST_FRAMES), kind, fields.number("value", -1, 1));
    }

    private static Tempo.Change tempo(JsonFields fields) throws Problem {
        return new Tempo.Change(
                fields.count("at", 0, SessionJson.MOST_FRAMES),
                fields.number("beat", 0, 1e9),
                fields.number("framesPerBeat", 1, 1e9));
    }
}
