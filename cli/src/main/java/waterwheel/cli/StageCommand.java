package waterwheel.cli;

import java.util.LinkedHashSet;
import java.util.List;
import java.util.Set;
import java.util.concurrent.Callable;
import java.util.stream.Collectors;
import org.jspecify.annotations.Nullable;
import picocli.CommandLine.Command;
import picocli.CommandLine.Mixin;
import picocli.CommandLine.Model.CommandSpec;
import picocli.CommandLine.Option;
import picocli.CommandLine.ParameterException;
import picocli.CommandLine.Spec;
import waterwheel.core.edit.FreezeLock;
import waterwheel.core.json.Json;
import waterwheel.core.levels.SessionLevels;
import waterwheel.core.levels.SessionMeasurement;
import waterwheel.core.metering.Figures;
import waterwheel.core.session.ChannelId;
import waterwheel.core.session.Session;
import waterwheel.core.session.StagingTargets;
import waterwheel.core.session.Track;
import waterwheel.core.staging.Aim;
import waterwheel.core.staging.ClipGainProposals;
import waterwheel.core.staging.StagingJson;
import waterwheel.core.staging.TrimProposal;
import waterwheel.core.staging.TrimProposals;
import waterwheel.core.store.SessionFolder;
import waterwheel.core.store.SessionLock;
import waterwheel.core.units.LevelText;
import waterwheel.core.work.Progress;

@Command(
        name = "stage",
        description = "Proposes gains: sustained tracks by their average, percussive ones by their peak, none past the"
                + " peak guard. Changes nothing without --apply.")
final class StageCommand implements Callable<Integer> {
    @Spec
    private CommandSpec spec = CommandSpec.create();

    @Mixin
    private SessionOptions options = new SessionOptions();

    @Option(names = "--apply", description = "Write the proposed gains to the session.")
    private boolean apply;

    @Option(names = "--together", description = "One gain for all, so that their balance stays.")
    private boolean together;

    @Option(names = "--clips", description = "Propose the gain of every clip instead of the trim.")
    private boolean clips;

    @Option(names = "--track", paramLabel = "NAME", description = "Only this track, by name or id; may be repeated.")
    private List<String> names = List.of();

    @Option(
            names = "--nominal",
            paramLabel = "DBFS",
            converter = NumberIn.Nominal.class,
            description = "Average of sustained tracks, -24 to -12.")
    private @Nullable Double nominalDbfs;

    @Option(
            names = "--loudness",
            paramLabel = "LUFS",
            converter = NumberIn.Loudness.class,
            description = "Bring each track to this loudness instead, -70 to 12.")
    private @Nullable Double loudnessLufs;

    @Option(
            names = "--peak",
            paramLabel = "DBFS",
            converter = NumberIn.AnyPeak.class,
            description = "Bring each track to this peak instead, of whatever kind it is, -80 to 0.")
    private @Nullable Double peakDbfs;

    @Option(
            names = "--percussive-peak",
            paramLabel = "DBFS",
            converter = NumberIn.StagedPeak.class,
            description = "Peak of percussive tracks, -24 to 0.")
    private @Nullable Double percussivePeakDbfs;

    @Option(
            names = "--guard",
            paramLabel = "DBFS",
            converter = NumberIn.StagedPeak.class,
            description = "No proposed peak passes this, -24 to 0.")
    private @Nullable Double guardDbfs;

    @Override
    public Integer call() throws Exception {
        try (SessionLock lock = apply ? SessionLock.acquire(options.folder()) : SessionLock.none()) {
            return stage(lock);
        }
    }

    private int stage(SessionLock lock) throws Exception {
        SessionFolder.Loaded read = SessionFolder.load(options.folder());
        Session loaded = read.session();
        boolean problems = options.tellOfProblems(loaded);
        Session session;
        Aim aim;
        try {
            session = withTargets(loaded);
            aim = new Aim(goal(), together, clips ? Aim.Place.CLIPS : Aim.Place.TRIM);
        } catch (IllegalArgumentException e) {
            throw new ParameterException(spec.commandLine(), e.getMessage() + ".");
        }
        Set<ChannelId> chosen = chosen(session);
        SessionLevels levels = options.measure(session);
        TrimProposals proposals = clips
                ? SessionMeasurement.of(
                        session,
                        options.folder(),
                        song -> ClipGainProposals.of(song, session, chosen, aim, Progress.NONE))
                : TrimProposals.of(levels, chosen, aim);
        Session staged = proposals.edit().apply(session);
        Figures before = levels.main().orElseThrow();
        Figures after =
                staged.equals(session) ? before : options.measure(staged).main().orElseThrow();
        if (apply && !staged.equals(loaded)) {
            lock.save(staged, read);
        }
        if (options.json()) {
            Console.out().print(Json.pretty(StagingJson.of(proposals, before, after, apply)));
        } else {
            print(proposals, before, after);
        }
        return problems ? 1 : 0;
    }

    private Aim.Goal goal() {
        if (loudnessLufs != null && peakDbfs != null) {
            throw new ParameterException(
                    spec.commandLine(), "--loudness and --peak exclude each other. Give one of them.");
        }
        return loudnessLufs != null
                ? new Aim.Loudness(loudnessLufs)
                : peakDbfs != null ? new Aim.Peak(peakDbfs) : new Aim.ByKind();
    }

    private Session withTargets(Session session) {
        StagingTargets targets = session.staging();
        Session with = session.withStaging(new StagingTargets(
                percussivePeakDbfs == null ? targets.percussivePeakDbfs() : percussivePeakDbfs,
                guardDbfs == null ? targets.guardPeakDbfs() : guardDbfs,
                targets.noiseFloorDbfs()));
        return nominalDbfs == null ? with : with.withNominalDbfs(nominalDbfs);
    }

    private Set<ChannelId> chosen(Session session) {
        if (names.isEmpty()) {
            // What is frozen stays; who names it is told so.
            Set<ChannelId> all = new LinkedHashSet<>();
            for (Track track : session.tracks()) {
                if (!apply || !FreezeLock.holds(session, track)) {
                    all.add(track.id());
                } else {
                    Console.tell(track.name() + " is in a frozen sound, and was left as it is.");
                }
            }
            return all;
        }
        Set<ChannelId> chosen = new LinkedHashSet<>();
        for (String name : names) {
            chosen.add(Named.channel(spec, "track", session.tracks(), name).id());
        }
        return chosen;
    }

    private void print(TrimProposals proposals, Figures before, Figures after) {
        for (TrimProposal proposal : proposals.list()) {
            Console.say(String.format(
                    "%-24s %s  average %12s  peak %12s  %s%s",
                    proposals.session().channel(proposal.channel()).name(),
                    gains(proposal),
                    LevelText.level(proposal.averageDbfs(), "dBFS"),
                    LevelText.level(proposal.peakDbfs(), "dBFS"),
                    proposal.reason().words(),
                    proposal.noisy() ? "; raises the noise floor" : ""));
        }
        Console.say("Headroom of the main bus: " + LevelText.change(before.headroomDb()) + " -> "
                + LevelText.change(after.headroomDb()));
        if (!apply) {
            Console.say("Nothing was changed; --apply writes these gains.");
        }
    }

    private static String gains(TrimProposal proposal) {
        if (proposal.clipGainsDb().isEmpty()) {
            return String.format(
                    "trim %9s -> %9s", LevelText.change(proposal.presentDb()), LevelText.change(proposal.proposedDb()));
        }
        return "clips " + proposal.clipGainsDb().stream().map(LevelText::change).collect(Collectors.joining(", "));
    }
}
