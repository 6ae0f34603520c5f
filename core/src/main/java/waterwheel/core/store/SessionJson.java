package waterwheel.core.store;

import com.fasterxml.jackson.databind.JsonNode;
import com.fasterxml.jackson.databind.node.ArrayNode;
import com.fasterxml.jackson.databind.node.ObjectNode;
import java.nio.file.InvalidPathException;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Optional;
import java.util.OptionalDouble;
import java.util.Set;
import waterwheel.core.json.Json;
import waterwheel.core.rack.Port;
import waterwheel.core.session.Bus;
import waterwheel.core.session.Channel;
import waterwheel.core.session.ChannelId;
import waterwheel.core.session.Clip;
import waterwheel.core.session.Feed;
import waterwheel.core.session.LinkGroup;
import waterwheel.core.session.Listen;
import waterwheel.core.session.NamedStem;
import waterwheel.core.session.PanLaw;
import waterwheel.core.session.Section;
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
import waterwheel.core.units.PlainText;
import waterwheel.core.units.SongLength;

/** The session file, field by field, in a stable order; its schema is session in docs/schema. */
final class SessionJson {
    private static final String FORMAT = "waterwheel-session";
    private static final int VERSION = 1;
    static final long MOST_FRAMES = 1L << 40;

    private SessionJson() {}

    /** What is wrong with a file, and what to do. */
    static final class Problem extends Exception {
        private static final long serialVersionUID = 1L;

        private final String remedy;

        Problem(String message) {
            this(message, "Put back an earlier save from earlier/, or mend the file by hand.");
        }

        Problem(String message, String remedy) {
            super(message);
            this.remedy = remedy;
        }

        String remedy() {
            return remedy;
        }
    }

    /** A session and the places in the file that are not known. */
    record Read(Session session, List<String> unknownFields) {}

    static ObjectNode write(Session session) {
        ObjectNode node = Json.object();
        node.put("format", FORMAT);
        node.put("version", VERSION);
        node.put("title", session.title());
        node.put("sampleRateHz", session.sampleRateHz());
        node.put("panLaw", word(session.panLaw()));
        node.put("nominalDbfs", session.nominalDbfs());
        node.putObject("staging")
                .put("percussivePeakDbfs", session.staging().percussivePeakDbfs())
                .put("guardPeakDbfs", session.staging().guardPeakDbfs())
                .put("noiseFloorDbfs", session.staging().noiseFloorDbfs());
        node.put("main", session.mainId().value());
        ArrayNode sections = node.putArray("sections");
        for (Section section : session.sections()) {
            sections.addObject()
                    .put("name", section.name())
                    .put("startFrames", section.startFrames())
                    .put("endFrames", section.endFrames());
        }
        if (!session.vcas().isEmpty()) {
            ArrayNode vcas = node.putArray("vcas");
            session.vcas().forEach(vca -> write(vcas.addObject(), vca));
        }
        if (!session.links().isEmpty()) {
            ArrayNode links = node.putArray("links");
            session.links().forEach(link -> write(links.addObject(), link));
        }
        if (!session.stems().equals(StemDivision.TRACKS)) {
            write(node.putObject("stems"), session.stems());
        }
        AssignmentsJson.write(node, session.assignments());
        RackJson.write(node, session.rack());
        ArrayNode sources = node.putArray("sources");
        for (AudioSource source : session.sources()) {
            sources.add(write(source));
        }
        ArrayNode channels = node.putArray("channels");
        session.channels().forEach(channel -> channels.add(write(channel)));
        ParkedJson.write(node, session.parked());
        return node;
    }

    private static void putIds(ObjectNode node, String name, List<ChannelId> ids) {
        ArrayNode array = node.putArray(name);
        ids.forEach(id -> array.add(id.value()));
    }

    private static List<ChannelId> ids(JsonFields fields, String name) throws Problem {
        return fields.texts(name).stream().map(ChannelId::new).toList();
    }

    private static void write(ObjectNode node, Vca vca) {
        node.put("id", vca.id().value());
        node.put("name", vca.name());
        StripJson.putLevel(node, "faderDb", vca.faderDb());
        node.put("muted", vca.muted());
        putIds(node, "members", vca.members());
        putIds(node, "exempt", vca.exempt());
        RidesJson.write(node, vca.rides());
    }

    private static Vca vca(JsonFields fields) throws Problem {
        return new Vca(
                new ChannelId(fields.text("id")),
                fields.text("name"),
                fields.levelOrSilence("faderDb", Strip.FADER_TOP_DB),
                fields.flag("muted"),
                ids(fields, "members"),
                ids(fields, "exempt"),
                RidesJson.read(fields, Vca.controls()));
    }

    private static void write(ObjectNode node, LinkGroup link) {
        node.put("id", link.id().value());
        node.put("name", link.name());
        putIds(node, "members", link.members());
        putIds(node, "exempt", link.exempt());
        ArrayNode attributes = node.putArray("attributes");
        link.attributes().forEach(attribute -> attributes.add(attribute.label()));
        if (!link.beyond().isEmpty()) {
            ArrayNode beyond = node.putArray("beyond");
            link.beyond().forEach(one -> beyond.addObject()
                    .put("member", one.member().value())
                    .put("attribute", one.attribute().label())
                    .put("db", one.db()));
        }
    }

    private static LinkGroup link(JsonFields fields) throws Problem {
        Set<LinkGroup.Attribute> attributes = new LinkedHashSet<>();
        for (String word : fields.texts("attributes")) {
            attributes.add(Arrays.stream(LinkGroup.Attribute.values())
                    .filter(a -> a.label().equals(word))
                    .findFirst()
                    .orElseThrow(() ->
                            new Problem("A link group has the unknown attribute '" + PlainText.of(word, 60) + "'.")));
        }
        return new LinkGroup(
                new ChannelId(fields.text("id")),
                fields.text("name"),
                ids(fields, "members"),
                ids(fields, "exempt"),
                attributes,
                fields.has("beyond") ? fields.list("beyond", SessionJson::beyond) : List.of());
    }

    private static LinkGroup.Beyond beyond(JsonFields fields) throws Problem {
        return new LinkGroup.Beyond(
                new ChannelId(fields.text("member")),
                fields.oneOf("attribute", LinkGroup.Attribute.values(), LinkGroup.Attribute::label),
                fields.number("db", -1_000, 1_000));
    }

    private static void write(ObjectNode node, StemDivision stems) {
        node.put("by", stems.by().label());
        node.put("returnsApart", stems.returnsApart());
        ArrayNode named = node.putArray("named");
        for (NamedStem stem : stems.named()) {
            ObjectNode one = named.addObject();
            one.put("id", stem.id().value());
            one.put("name", stem.name());
            putIds(one, "members", stem.members());
        }
    }

    private static StemDivision stems(JsonFields fields) throws Problem {
        StemDivision stems = new StemDivision(
                fields.oneOf("by", StemDivision.By.values(), StemDivision.By::label),
                fields.flag("returnsApart"),
                fields.list(
                        "named",
                        stem -> new NamedStem(
                                new ChannelId(stem.text("id")), stem.text("name"), ids(stem, "members"))));
        fields.close();
        return stems;
    }

    private static ObjectNode write(AudioSource source) {
        ObjectNode node = Json.object();
        node.put("id", source.id().value());
        node.put("path", source.path());
        node.put("frames", source.frames());
        node.put("channels", source.channels());
        node.put("sampleRateHz", source.sampleRateHz());
        node.put("encoding", source.encoding());
        if (!source.contentHash().isEmpty()) {
            node.put("contentHash", source.contentHash());
        }
        if (source.modifiedMillis() != 0) {
            node.put("modifiedMillis", source.modifiedMillis());
        }
        source.flattening().ifPresent(lost -> node.putObject("flattening")
                .put("runs", lost.runs())
                .put("samples", lost.samples())
                .put("firstSeconds", lost.firstSeconds()));
        return node;
    }

    static ObjectNode write(Channel channel) {
        ObjectNode node = Json.object();
        node.put("id", channel.id().value());
        node.put("name", channel.name());
        switch (channel) {
            case Track track -> {
                node.put("type", "track");
                node.put("kind", track.kind().label());
                node.put("planes", track.planes());
                track.ownReferenceDbfs().ifPresent(db -> node.put("referenceDbfs", db));
                if (track.colour() != Track.Colour.NONE) {
                    node.put("colour", track.colour().label());
                }
                track.tap().ifPresent(tap -> node.putObject("tap")
                        .put("channel", tap.channel().value())
                        .put("point", StripJson.word(tap.point())));
                track.input().ifPresent(input -> node.putObject("input")
                        .put("port", input.port())
                        .put("listen", input.listen().label()));
            }
            case Bus _ -> node.put("type", "bus");
        }
        if (channel instanceof Track track) {
            InstrumentJson.write(node, track.feed());
        }
        StripJson.write(node, channel.strip());
        if (channel instanceof Track track) {
            ArrayNode clips = node.putArray("clips");
            for (Clip clip : track.clips()) {
                clips.add(ClipJson.write(clip));
            }
        }
        return node;
    }

    static Read read(JsonNode document) throws Problem {
        List<String> unknown = new ArrayList<>();
        JsonFields fields = new JsonFields(document, "", unknown);
        if (!fields.text("format").equals(FORMAT)) {
            throw new Problem("This is not a session file.", "Choose a folder that Waterwheel made.");
        }
        long version = fields.count("version", 1, Integer.MAX_VALUE);
        if (version > VERSION) {
            throw new Problem(
                    "The session was saved by a newer Waterwheel (format version " + version + "; this one reads up to "
                            + VERSION + ").",
                    "Open it with the newer Waterwheel; it stays as it is.");
        }
        try {
            Session session = new Session(
                    fields.text("title"),
                    (int) fields.count("sampleRateHz", 8_000, 384_000),
                    fields.oneOf("panLaw", PanLaw.values(), SessionJson::word),
                    fields.number("nominalDbfs", -24, -12),
                    fields.list("sources", SessionJson::source),
                    fields.list("channels", SessionJson::channel),
                    new ChannelId(fields.text("main")),
                    fields.list("sections", SessionJson::section),
                    fields.has("staging") ? staging(fields.object("staging")) : StagingTargets.DEFAULT,
                    fields.has("vcas") ? fields.list("vcas", SessionJson::vca) : List.of(),
                    fields.has("links") ? fields.list("links", SessionJson::link) : List.of(),
                    AssignmentsJson.read(fields),
                    RackJson.read(fields),
                    ParkedJson.read(fields),
                    fields.has("stems") ? stems(fields.object("stems")) : StemDivision.TRACKS);
            fields.close();
            checkLength(session);
            return new Read(session, unknown);
        } catch (IllegalArgumentException e) {
            throw new Problem("The session contradicts itself: " + e.getMessage() + ".");
        }
    }

    /** Asked before anything is made for the song's frames. */
    private static void checkLength(Session session) throws Problem {
        long most = SongLength.mostFrames(session.sampleRateHz());
        for (Channel channel : session.everyChannel()) {
            if (channel instanceof Track track
                    && track.played()
                            .filter(one -> one.notes().endFrames() > most)
                            .isPresent()) {
                throw new Problem(
                        "The song is longer than " + SongLength.MOST_SECONDS / 3_600 + " hours: a note of "
                                + PlainText.of(track.name(), 60) + " ends behind that.",
                        "Put back an earlier save from earlier/, or mend the note by hand.");
            }
            for (Clip clip : channel instanceof Track track ? track.clips() : List.<Clip>of()) {
                if (clip.endFrames() > most) {
                    throw new Problem(
                            "The song is longer than " + SongLength.MOST_SECONDS / 3_600 + " hours: a clip of "
                                    + PlainText.of(channel.name(), 60) + " ends at frame " + clip.endFrames() + ".",
                            "Put back an earlier save from earlier/, or mend the clip's startFrames or lengthFrames"
                                    + " by hand.");
                }
            }
        }
    }

    private static StagingTargets staging(JsonFields fields) throws Problem {
        StagingTargets targets = new StagingTargets(
                fields.number("percussivePeakDbfs", -24, 0),
                fields.number("guardPeakDbfs", -24, 0),
                fields.number("noiseFloorDbfs", -120, 0));
        fields.close();
        return targets;
    }

    private static Section section(JsonFields fields) throws Problem {
        return new Section(
                fields.text("name"),
                fields.count("startFrames", 0, MOST_FRAMES),
                fields.count("endFrames", 0, MOST_FRAMES));
    }

    private static AudioSource source(JsonFields fields) throws Problem {
        AudioSource source = new AudioSource(
                new SourceId(fields.text("id")),
                fields.text("path"),
                fields.count("frames", 0, MOST_FRAMES),
                (int) fields.count("channels", 1, 2),
                (int) fields.count("sampleRateHz", 8_000, 384_000),
                fields.text("encoding"),
                fields.has("contentHash") ? fields.text("contentHash") : "",
                fields.has("modifiedMillis") ? fields.count("modifiedMillis", Long.MIN_VALUE, Long.MAX_VALUE) : 0,
                fields.has("flattening") ? Optional.of(flattening(fields.object("flattening"))) : Optional.empty());
        Path path = path(source);
        if (!path.isAbsolute() && path.normalize().startsWith("..")) {
            throw new Problem(
                    "The source " + source.id() + " points out of the session's folder (" + source.path() + ").",
                    "Put the file into the session's audio folder and mend the path.");
        }
        return source;
    }

    private static Path path(AudioSource source) throws Problem {
        try {
            return Path.of(source.path());
        } catch (InvalidPathException e) {
            throw new Problem(
                    "The source " + source.id() + " has a path that this system cannot read ("
                            + PlainText.of(source.path(), 60) + ").",
                    "Name the file otherwise, or run in a locale with UTF-8.");
        }
    }

    private static Flattening flattening(JsonFields fields) throws Problem {
        Flattening lost = new Flattening(
                fields.count("runs", 1, MOST_FRAMES),
                fields.count("samples", 1, MOST_FRAMES),
                fields.number("firstSeconds", 0, Double.MAX_VALUE));
        fields.close();
        return lost;
    }

    static Channel channel(JsonFields fields) throws Problem {
        ChannelId id = new ChannelId(fields.text("id"));
        String name = fields.text("name");
        String type = fields.text("type");
        Strip strip = StripJson.read(fields);
        return switch (type) {
            case "track" ->
                new Track(
                        id,
                        name,
                        fields.oneOf("kind", Track.Kind.values(), Track.Kind::label),
                        (int) fields.count("planes", 1, 2),
                        feed(fields),
                        strip,
                        fields.has("referenceDbfs")
                                ? OptionalDouble.of(fields.number("referenceDbfs", -24, -12))
                                : OptionalDouble.empty(),
                        fields.has("colour")
                                ? fields.oneOf("colour", Track.Colour.values(), Track.Colour::label)
                                : Track.Colour.NONE);
            case "bus" -> new Bus(id, name, strip);
            default ->
                throw new Problem(
                        "The channel " + id + " is of type '" + PlainText.of(type, 60)
                                + "', which this version does not know.",
                        "Open the session with the Waterwheel that made it.");
        };
    }

    private static Feed feed(JsonFields fields) throws Problem {
        List<Clip> clips = fields.list("clips", ClipJson::read);
        if (fields.has("input")) {
            JsonFields input = fields.object("input");
            Feed feed = new Feed.Input(
                    (int) input.count("port", 1, Port.MOST),
                    input.oneOf("listen", Listen.values(), Listen::label),
                    clips);
            input.close();
            return feed;
        }
        boolean played = fields.has("played");
        if (!fields.has("tap") && !played && !fields.has("outputOf")) {
            return new Feed.Clips(clips);
        }
        if (clips.isEmpty() && played) {
            return InstrumentJson.played(fields.object("played"));
        }
        if (clips.isEmpty() && fields.has("outputOf")) {
            return InstrumentJson.output(fields.object("outputOf"));
        }
        if (!clips.isEmpty()) {
            throw new Problem("The track " + fields.text("id")
                    + " has both clips and something else that it takes its signal from.");
        }
        return new Feed.Tapped(tap(fields.object("tap")));
    }

    private static Tap tap(JsonFields fields) throws Problem {
        Tap tap = new Tap(
                new ChannelId(fields.text("channel")), fields.oneOf("point", Tap.Point.values(), StripJson::word));
        fields.close();
        return tap;
    }

    private static String word(PanLaw law) {
        return switch (law) {
            case ZERO -> "0 dB";
            case MINUS_2_5 -> "-2.5 dB";
            case MINUS_3 -> "-3 dB";
            case MINUS_4_5 -> "-4.5 dB";
            case MINUS_6 -> "-6 dB";
        };
    }
}
