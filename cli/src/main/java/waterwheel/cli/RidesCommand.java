package waterwheel.cli;

import com.fasterxml.jackson.databind.node.ObjectNode;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import java.util.concurrent.Callable;
import org.jspecify.annotations.Nullable;
import picocli.CommandLine.Command;
import picocli.CommandLine.Mixin;
import picocli.CommandLine.Model.CommandSpec;
import picocli.CommandLine.Option;
import picocli.CommandLine.ParameterException;
import picocli.CommandLine.Spec;
import waterwheel.core.json.Json;
import waterwheel.core.levels.SessionMeasurement;
import waterwheel.core.rides.Ride;
import waterwheel.core.session.ChannelId;
import waterwheel.core.session.ControlId;
import waterwheel.core.session.Controls;
import waterwheel.core.session.Session;
import waterwheel.core.staging.HoldLevel;
import waterwheel.core.staging.MakeRoom;
import waterwheel.core.staging.RideProposal;
import waterwheel.core.staging.RoomProposals;
import waterwheel.core.store.RidesCsv;
import waterwheel.core.store.RidesCsvFile;
import waterwheel.core.store.RidesListJson;
import waterwheel.core.store.SessionFolder;
import waterwheel.core.store.SessionLock;
import waterwheel.core.units.LevelText;

@Command(
        name = "rides",
        description = "Lists the curves that controls move along, writes them to a file, reads them from one, and"
                + " proposes that channels make room for another. Changes nothing without --apply.")
final class RidesCommand implements Callable<Integer> {
    @Spec
    private CommandSpec spec = CommandSpec.create();

    @Mixin
    private SessionOptions options = new SessionOptions();

    @Mixin
    private OverwriteOption overwrite = new OverwriteOption();

    @Option(names = "--export", paramLabel = "FILE.csv", description = "Write all curves to a file, a row a point.")
    private @Nullable Path export;

    @Option(
            names = "--import",
            paramLabel = "FILE.csv",
            description = "Read curves from a file; they replace those of the controls that it names.")
    private @Nullable Path imported;

    @Option(
            names = "--make-room",
            paramLabel = "KEY",
            description = "Have other channels' faders step back while this channel is active; by name or id.")
    private @Nullable String key;

    @Option(names = "--for", paramLabel = "CHANNEL", arity = "1..*", description = "Which channels step back.")
    private List<String> stepping = List.of();

    @Option(
            names = "--depth",
            paramLabel = "DB",
            converter = NumberIn.Depth.class,
            description = "By how much, 0.5 to 24; 4 unless said.")
    private @Nullable Double depthDb;

    @Option(
            names = "--by",
            paramLabel = "WHAT",
            description = "What steps back: fader, or bell for one bell of an equaliser at the key's own band.")
    private MakeRoom.By by = MakeRoom.By.FADER;

    @Option(
            names = "--hold-level",
            paramLabel = "CHANNEL",
            description = "Ride this channel's fader so that its phrases stay within a range of its own loudness.")
    private @Nullable String held;

    @Option(
            names = "--range",
            paramLabel = "LU",
            converter = NumberIn.HeldRange.class,
            description = "How far a phrase may lie from it, 0.5 to 12; 2 unless said.")
    private @Nullable Double rangeLu;

    @Option(names = "--apply", description = "Write what is read or proposed to the session.")
    private boolean apply;

    @Override
    public Integer call() throws Exception {
        if (key == null && (!stepping.isEmpty() || depthDb != null || by == MakeRoom.By.BELL)) {
            throw new ParameterException(spec.commandLine(), "--for, --depth and --by belong to --make-room KEY.");
        }
        if (held == null && rangeLu != null) {
            throw new ParameterException(spec.commandLine(), "--range belongs to --hold-level CHANNEL.");
        }
        if (key != null && stepping.isEmpty()) {
            throw new ParameterException(spec.commandLine(), "--make-room needs --for CHANNEL: who is to step back?");
        }
        try (SessionLock lock = apply ? SessionLock.acquire(options.folder()) : SessionLock.none()) {
            return rides(lock);
        }
    }

    private int rides(SessionLock lock) throws Exception {
        SessionFolder.Loaded read = SessionFolder.load(options.folder());
        Session session = read.session();
        if (imported != null) {
            session = RidesCsvFile.read(session, imported).apply(session);
        }
        if (key != null) {
            session = withRoom(session);
        }
        if (held != null) {
            session = withLevelHeld(session);
        }
        if (apply && !session.equals(read.session())) {
            lock.save(session, read);
        }
        if (export != null) {
            RidesCsv.write(session, options.folder(), export, overwrite.overwrite);
        }
        ObjectNode list = RidesListJson.of(session);
        if (options.json()) {
            Console.out().print(Json.pretty(list));
        } else {
            print(session);
            if (!apply && !session.equals(read.session())) {
                Console.say("Nothing was changed; --apply writes these curves.");
            }
        }
        return 0;
    }

    private Session withRoom(Session session) throws Exception {
        MakeRoom room = depthDb == null ? MakeRoom.USUAL : MakeRoom.USUAL.withDepthDb(depthDb);
        ChannelId active = channel(session, String.valueOf(key));
        List<ChannelId> back = new ArrayList<>();
        for (String name : stepping) {
            back.add(channel(session, name));
        }
        if (back.contains(active)) {
            throw new ParameterException(spec.commandLine(), "'" + key + "' cannot make room for itself.");
        }
        Optional<RideProposal> proposal = Console.withProgress(
                "Measuring",
                progress -> SessionMeasurement.of(
                        session,
                        options.folder(),
                        song -> RoomProposals.of(song, session, active, back, room.withBy(by), progress)));
        if (proposal.isEmpty()) {
            Console.tell("'" + session.channel(active).name() + "' is never active: nothing is proposed.");
        }
        return proposal.map(this::told).orElse(session);
    }

    private Session withLevelHeld(Session session) throws Exception {
        ChannelId channel = channel(session, String.valueOf(held));
        HoldLevel hold = rangeLu == null ? HoldLevel.USUAL : HoldLevel.USUAL.withRangeLu(rangeLu);
        Optional<RideProposal> proposal = Console.withProgress(
                "Measuring",
                progress -> SessionMeasurement.of(
                        session, options.folder(), song -> hold.of(song, session, channel, progress)));
        if (proposal.isEmpty()) {
            Console.tell("No phrase of '" + session.channel(channel).name()
                    + "' lies further from its own loudness: nothing is proposed.");
        }
        return proposal.map(this::told).orElse(session);
    }

    /** The session as it would be, once its differences are told. */
    private Session told(RideProposal proposal) {
        if (!options.json()) {
            Console.say(proposal.what() + ":");
            for (RideProposal.Change change : proposal.changes()) {
                Console.say(String.format(
                        "  %-24s %7s to %7s",
                        change.section(),
                        LevelText.signed(change.before(), 1, true),
                        LevelText.signed(change.after(), 1, true)));
            }
        }
        return proposal.after();
    }

    private ChannelId channel(Session session, String name) {
        return Named.channel(spec, "channel", session.channels(), name).id();
    }

    private static void print(Session session) {
        List<ControlId> all = Controls.ridden(session);
        long clips = session.tracks().stream()
                .flatMap(track -> track.clips().stream())
                .mapToLong(clip -> clip.rides().size())
                .sum();
        if (all.isEmpty() && clips == 0) {
            Console.say("Nothing is ridden.");
        }
        if (clips > 0) {
            Console.say(clips + (clips == 1 ? " curve belongs to a clip." : " curves belong to clips."));
        }
        for (ControlId id : all) {
            Ride ride = Controls.ride(session, id).orElseThrow();
            String unit = Controls.control(session, id).unit();
            double least = ride.curve().points().stream()
                    .mapToDouble(p -> p.value())
                    .min()
                    .orElse(0);
            double most = ride.curve().points().stream()
                    .mapToDouble(p -> p.value())
                    .max()
                    .orElse(0);
            Console.say(String.format(
                    "%-24s %-32s %4d point%s  %s to %s %s%s%s",
                    Controls.ownerName(session, id),
                    Controls.name(session, id),
                    ride.curve().points().size(),
                    ride.curve().points().size() == 1 ? " " : "s",
                    LevelText.signed(least, 2, true),
                    LevelText.signed(most, 2, true),
                    unit,
                    ride.offset() == 0 && ride.offsetCurve().isNone() ? "" : "  with an offset",
                    ride.suspended() ? "  suspended" : ""));
        }
    }
}
