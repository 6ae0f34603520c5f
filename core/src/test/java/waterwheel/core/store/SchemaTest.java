package waterwheel.core.store;

import static org.assertj.core.api.Assertions.assertThat;

import com.fasterxml.jackson.databind.JsonNode;
import com.fasterxml.jackson.databind.node.ArrayNode;
import com.fasterxml.jackson.databind.node.ObjectNode;
import com.networknt.schema.JsonSchema;
import com.networknt.schema.JsonSchemaFactory;
import com.networknt.schema.SpecVersion;
import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import java.util.OptionalDouble;
import java.util.OptionalInt;
import java.util.Set;
import org.junit.jupiter.api.DisplayNameGeneration;
import org.junit.jupiter.api.DisplayNameGenerator;
import org.junit.jupiter.api.Test;
import waterwheel.core.controllers.ControllerPart;
import waterwheel.core.inserts.Insert;
import waterwheel.core.inserts.Parameter;
import waterwheel.core.inserts.Processor;
import waterwheel.core.inserts.ProcessorKind;
import waterwheel.core.inserts.SlotId;
import waterwheel.core.instruments.Instrument;
import waterwheel.core.instruments.Region;
import waterwheel.core.json.Json;
import waterwheel.core.notes.Note;
import waterwheel.core.notes.NoteChange;
import waterwheel.core.notes.Notes;
import waterwheel.core.notes.Tempo;
import waterwheel.core.processing.Processors;
import waterwheel.core.rack.Cable;
import waterwheel.core.rack.Capture;
import waterwheel.core.rack.Device;
import waterwheel.core.rack.Driver;
import waterwheel.core.rack.Expectation;
import waterwheel.core.rack.Knob;
import waterwheel.core.rack.Loop;
import waterwheel.core.rack.LoopTiming;
import waterwheel.core.rack.Port;
import waterwheel.core.rack.PortSide;
import waterwheel.core.rack.Rack;
import waterwheel.core.rack.Reamplifier;
import waterwheel.core.rack.RecordingSettings;
import waterwheel.core.rack.StemCapture;
import waterwheel.core.rack.Unit;
import waterwheel.core.rack.UnitId;
import waterwheel.core.rides.Curve;
import waterwheel.core.rides.CurvePoint;
import waterwheel.core.session.Assignment;
import waterwheel.core.session.Bond;
import waterwheel.core.session.Bus;
import waterwheel.core.session.Channel;
import waterwheel.core.session.ChannelId;
import waterwheel.core.session.Clip;
import waterwheel.core.session.ControlId;
import waterwheel.core.session.Feed;
import waterwheel.core.session.LinkGroup;
import waterwheel.core.session.Listen;
import waterwheel.core.session.NamedStem;
import waterwheel.core.session.Output;
import waterwheel.core.session.PanLaw;
import waterwheel.core.session.Parked;
import waterwheel.core.session.Placement;
import waterwheel.core.session.Section;
import waterwheel.core.session.Send;
import waterwheel.core.session.Session;
import waterwheel.core.session.StagingTargets;
import waterwheel.core.session.StemDivision;
import waterwheel.core.session.Strip;
import waterwheel.core.session.Tap;
import waterwheel.core.session.Track;
import waterwheel.core.session.Vca;
import waterwheel.core.sources.AudioSource;
import waterwheel.core.sources.Flattening;
import waterwheel.core.sources.SourceId;

/** The published schema and the reader agree, field by field, on a session that has one of everything. */
@DisplayNameGeneration(DisplayNameGenerator.ReplaceUnderscores.class)
class SchemaTest {
    private static final ChannelId MAIN = new ChannelId("main");
    private static final ChannelId BUS = new ChannelId("bus");

    private final JsonSchema schema = schema();

    private static JsonSchema schema() {
        try {
            String text = Files.readString(Path.of("../docs/schema/session.schema.json"));
            return JsonSchemaFactory.getInstance(SpecVersion.VersionFlag.V202012)
                    .getSchema(text);
        } catch (IOException e) {
            throw new IllegalStateException(e);
        }
    }

    /** Every kind of processor, with settings that are not the usual ones. */
    private static List<Insert> inserts() {
        List<Insert> inserts = new ArrayList<>();
        for (ProcessorKind kind : Processors.kinds()) {
            List<Double> values =
                    kind.parameters().stream().map(Parameter::least).toList();
            Optional<SourceId> response = kind.responds() ? Optional.of(new SourceId("s1")) : Optional.empty();
            inserts.add(new Insert(
                    new SlotId(kind.key()),
                    new Processor(kind, values, response, kind.loops() ? loop() : Loop.NONE),
                    inserts.size() % 2 == 0,
                    -3,
                    2,
                    0.5));
        }
        return inserts;
    }

    private static Loop loop() {
        return new Loop(
                Optional.of(new UnitId("u1")),
                3,
                5,
                Optional.of(new LoopTiming(
                        612.4, true, -3, Double.NEGATIVE_INFINITY, OptionalDouble.of(50), -60, 30, 48_000, 256, "Box")),
                Optional.of(new Capture(new SourceId("s1"), "ab12 3 5", -20, -6)),
                List.of(new StemCapture("t1", new Capture(new SourceId("s1"), "cd34 3 5", -21, -7))));
    }

    private static Rack rack() {
        UnitId unit = new UnitId("u1");
        return new Rack(
                new Device(Driver.SIMULATED, "Box", 128),
                2,
                List.of(new Port(PortSide.OUTPUT, 3, "To the box", 20)),
                List.of(new Unit(
                        unit,
                        "Box",
                        2,
                        Expectation.INSTRUMENT,
                        Optional.of(Reamplifier.USUAL),
                        List.of(new Knob("Drive", 0, 10, "%", 4)),
                        "drive",
                        "Left foot")),
                List.of(new Cable(Optional.of(unit), 3, 5)),
                new RecordingSettings(-19, -12, -7, OptionalInt.of(320)));
    }

    private static Session session() {
        SourceId source = new SourceId("s1");
        Clip clip = new Clip(
                        source,
                        10,
                        20,
                        400,
                        -2,
                        30,
                        40,
                        new Curve(List.of(
                                new CurvePoint(0, 1, CurvePoint.Shape.LINE),
                                new CurvePoint(9, 2, CurvePoint.Shape.SMOOTH))))
                .withSide(Clip.Side.LEFT);
        Strip strip = Strip.unity(Output.to(BUS))
                .withInserts(inserts())
                .withExtraOutputs(List.of(MAIN))
                .withSends(List.of(
                        Send.toBus(BUS, -6).withPlacement(Optional.of(Placement.CENTRE)),
                        Send.toKey(BUS, new SlotId("compressor"))));
        List<Channel> channels = List.of(
                new Track(
                        new ChannelId("t1"),
                        "One",
                        Track.Kind.PERCUSSIVE,
                        2,
                        new Feed.Clips(List.of(clip)),
                        strip,
                        OptionalDouble.of(-20),
                        Track.Colour.FERN),
                new Track(
                        new ChannelId("t2"),
                        "Two",
                        Track.Kind.SUSTAINED,
                        1,
                        new Feed.Tapped(new Tap(new ChannelId("t1"), Tap.Point.POST_FADER)),
                        Strip.unity(new Output.ToInterface(2)),
                        OptionalDouble.empty(),
                        Track.Colour.NONE),
                new Track(
                        new ChannelId("t3"),
                        "Three",
                        Track.Kind.SUSTAINED,
                        2,
                        new Feed.Input(3, Listen.BETWEEN, List.of(clip)),
                        Strip.unity(Output.to(MAIN)),
                        OptionalDouble.empty(),
                        Track.Colour.NONE),
                new Track(new ChannelId("t4"), "Four", Track.Kind.SUSTAINED, 2, List.of(), Strip.unity(Output.to(MAIN)))
                        .withFeed(new Feed.Played(
                                new Instrument.Sampler("Samples", List.of(Region.of(source, 0, 127, 60))),
                                new Notes(
                                        List.of(new Note(5, 10, 60, 100)),
                                        List.of(new NoteChange(7, NoteChange.Kind.BEND, 0.5)),
                                        Tempo.of(120, 48_000)),
                                1)),
                new Track(new ChannelId("t5"), "Five", Track.Kind.SUSTAINED, 2, List.of(), Strip.unity(Output.to(MAIN)))
                        .withFeed(new Feed.Output(new ChannelId("t4"), 2)),
                new Track(new ChannelId("t6"), "Six", Track.Kind.SUSTAINED, 2, List.of(), Strip.unity(Output.to(MAIN)))
                        .withFeed(new Feed.Played(Instrument.Synth.PLUCKED, Notes.none(48_000), 1)),
                new Bus(BUS, "Bus", Strip.unity(Output.to(MAIN)).withInserts(inserts())),
                new Bus(MAIN, "Main", Strip.unity(new Output.Nowhere())));
        return new Session(
                "Song",
                48_000,
                PanLaw.MINUS_4_5,
                -20,
                List.of(new AudioSource(
                        source,
                        "audio/one.wav",
                        500,
                        2,
                        48_000,
                        "PCM 24-bit",
                        "0".repeat(64),
                        1_700_000_000_000L,
                        Optional.of(new Flattening(1, 3, 0.5)))),
                channels,
                MAIN,
                List.of(new Section("Verse", 0, 100)),
                StagingTargets.DEFAULT,
                List.of(new Vca(
                        new ChannelId("v1"), "VCA", Double.NEGATIVE_INFINITY, true, List.of(BUS), List.of(BUS))),
                List.of(new LinkGroup(
                        new ChannelId("l1"),
                        "Link",
                        List.of(new ChannelId("t1"), BUS),
                        List.of(),
                        Set.of(LinkGroup.Attribute.FADER),
                        List.of())),
                List.of(
                        new Assignment(
                                new ControllerPart("Desk", ControllerPart.Kind.CONTROL, 2, 7),
                                ControlId.ofSend(new ChannelId("t1"), 0, "levelDb")),
                        new Assignment(
                                new ControllerPart("Desk", ControllerPart.Kind.NOTE, 1, 36),
                                ControlId.ofInsert(BUS, new SlotId("x"), "mix"))),
                rack(),
                List.of(new Parked(
                        new Bus(BUS, "Bus before", Strip.unity(Output.to(MAIN))),
                        List.of(new Parked.Along(
                                2,
                                new Track(
                                        new ChannelId("t9"),
                                        "Nine",
                                        Track.Kind.SUSTAINED,
                                        1,
                                        List.of(clip),
                                        Strip.unity(Output.to(BUS))))),
                        List.of(
                                new Bond.Fed(new ChannelId("t2"), BUS),
                                new Bond.Extra(new ChannelId("t2"), BUS),
                                new Bond.Sent(new ChannelId("t2"), 1, Send.toKey(BUS, new SlotId("gate"))),
                                new Bond.Member(new ChannelId("v1"), BUS, true)))),
                new StemDivision(
                        StemDivision.By.NAMED,
                        true,
                        List.of(new NamedStem(new ChannelId("s1"), "Both", List.of(new ChannelId("t1"), BUS)))));
    }

    private boolean valid(JsonNode document) {
        return schema.validate(document).isEmpty();
    }

    /** What the reader says is wrong; empty where nothing is. */
    private static String problem(JsonNode document) {
        try {
            SessionJson.read(document);
            return "";
        } catch (SessionJson.Problem e) {
            return String.valueOf(e.getMessage());
        }
    }

    private static boolean read(JsonNode document) {
        return problem(document).isEmpty();
    }

    /** Something done to one field of a document. */
    private interface Change {
        void on(ObjectNode object, String field);
    }

    /** A place in a document: names and numbers of elements, then the field. */
    private static void collect(JsonNode node, List<String> path, List<List<String>> fields) {
        if (node.isObject()) {
            node.fieldNames().forEachRemaining(name -> {
                List<String> here = new ArrayList<>(path);
                here.add(name);
                fields.add(here);
                collect(node.get(name), here, fields);
            });
        } else if (node.isArray()) {
            for (int i = 0; i < node.size(); i++) {
                List<String> here = new ArrayList<>(path);
                here.add("" + i);
                collect(node.get(i), here, fields);
            }
        }
    }

    private static void change(JsonNode document, List<String> path, Change change) {
        JsonNode at = document;
        for (String step : path.subList(0, path.size() - 1)) {
            at = at instanceof ArrayNode array ? array.get(Integer.parseInt(step)) : at.get(step);
        }
        change.on((ObjectNode) at, path.getLast());
    }

    @Test
    void a_session_with_one_of_everything_is_valid_and_comes_back_as_it_was() throws Exception {
        JsonNode document = Json.parse(Json.pretty(SessionJson.write(session())));
        assertThat(schema.validate(document)).isEmpty();
        SessionJson.Read read = SessionJson.read(document);
        assertThat(read.session()).isEqualTo(session());
        assertThat(read.unknownFields()).isEmpty();
    }

    @Test
    void what_the_schema_requires_the_reader_requires_and_nothing_else() throws Exception {
        String text = Json.pretty(SessionJson.write(session()));
        List<List<String>> fields = new ArrayList<>();
        collect(Json.parse(text), List.of(), fields);
        assertThat(fields).hasSizeGreaterThan(300);
        for (List<String> field : fields) {
            JsonNode without = Json.parse(text);
            change(without, field, (object, name) -> object.remove(name));
            boolean missed = problem(without).endsWith(field.getLast() + " is missing.");
            assertThat(valid(without))
                    .as("without %s: %s", field, problem(without))
                    .isEqualTo(!missed);
        }
    }

    @Test
    void what_is_of_another_type_is_refused_by_both() throws Exception {
        String text = Json.pretty(SessionJson.write(session()));
        List<List<String>> fields = new ArrayList<>();
        collect(Json.parse(text), List.of(), fields);
        List<Change> changes = List.of(
                (object, name) -> object.putObject(name),
                (object, name) -> object.put(name, true),
                (object, name) -> object.putArray(name).add(1));
        for (List<String> field : fields) {
            for (Change change : changes) {
                JsonNode wrong = Json.parse(text);
                change(wrong, field, change);
                assertThat(valid(wrong))
                        .as(
                                "with %s changed the reader says %s: %s",
                                field, read(wrong), wrong.at("/" + String.join("/", field)))
                        .isEqualTo(read(wrong));
            }
        }
    }
}
