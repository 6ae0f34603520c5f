package waterwheel.core.captures;

import java.nio.file.Path;
import java.util.ArrayList;
import java.util.BitSet;
import java.util.List;
import java.util.Optional;
import java.util.Set;
import waterwheel.core.engine.LiveLoops;
import waterwheel.core.engine.Media;
import waterwheel.core.engine.Plan;
import waterwheel.core.engine.PlanCompiler;
import waterwheel.core.engine.PlanRun;
import waterwheel.core.engine.PortBuffers;
import waterwheel.core.engine.PortPatch;
import waterwheel.core.errors.AudioFileException;
import waterwheel.core.errors.WaterwheelException;
import waterwheel.core.ports.AudioPort;
import waterwheel.core.session.Session;
import waterwheel.core.simulation.RackPort;
import waterwheel.core.sources.SourceId;
import waterwheel.core.units.LevelText;
import waterwheel.core.work.Leftovers;
import waterwheel.core.work.Progress;
import waterwheel.core.work.Team;

/**
 * Runs the song through its hardware and records what comes back, pass after pass. Each recording begins with what came
 * in while the song's first frame was sent, so that no later correction of the loop's time loses anything of it.
 */
public final class CaptureRun {
    /** Where recordings go in a session's folder. */
    public static final String FOLDER = "captures";
    /** How long what comes back is recorded after the song's end. */
    private static final double TAIL_SECONDS = 4;
    /** For how long silence is sent before, so that units forget what was before. */
    private static final double SETTLE_SECONDS = 0.25;

    private final Path folder;
    private final AudioPort port;
    private final int block;

    /**
     * Makes a run.
     *
     * @param folder the session's
     * @param port closed; it is opened and closed by each pass
     * @param blockFrames how many frames it is given at a time
     */
    public CaptureRun(Path folder, AudioPort port, int blockFrames) {
        this.folder = folder;
        this.port = port;
        block = blockFrames;
    }

    /** Makes a run through the interface that a session has, as fast as that goes. */
    public static CaptureRun of(Session session, Path folder) {
        return new CaptureRun(
                folder,
                RackPort.fast(session.rack(), session.sampleRateHz()),
                session.rack().blockFrames());
    }

    /** What some passes take, in words. */
    public static String inWords(int passes, Session session) {
        return passes + (passes == 1 ? " pass, " : " passes, ") + LevelText.time(passes * seconds(session))
                + " in real time";
    }

    /** Keeps what a pass brought. */
    public interface Kept {
        void pass(List<Captured> captured) throws WaterwheelException;
    }

    /** How long a pass takes in real time, in seconds. */
    public static double seconds(Session session) {
        return (double) session.lengthFrames() / session.sampleRateHz() + TAIL_SECONDS + SETTLE_SECONDS;
    }

    /**
     * Captures what some slots send back, in as few passes as their order allows.
     *
     * @param wanting the slots
     * @param kept told of each pass, so that a stop afterwards loses nothing of it
     * @return the session with all captures
     * @throws WaterwheelException if the port refuses, or a file cannot be written; passes before it are kept
     * @throws java.util.concurrent.CancellationException if the progress says stop; likewise
     */
    public Session run(Session session, Set<HardwareSlot> wanting, Kept kept, Progress progress)
            throws WaterwheelException {
        return run(session, Optional.empty(), wanting, kept, progress);
    }

    /**
     * Captures what loops on buses bring back of stems by themselves, as far as that is wanting.
     *
     * @throws WaterwheelException as {@link #run} does
     * @throws java.util.concurrent.CancellationException likewise
     */
    public Session runStems(Session session, List<StemShare> stems, Kept kept, Progress progress)
            throws WaterwheelException {
        Session now = session;
        for (int i = 0; i < stems.size(); i++) {
            Progress part = progress.part((double) i / stems.size(), (i + 1.0) / stems.size());
            Set<HardwareSlot> wanting;
            try (Media media = Media.open(now, folder)) {
                wanting = stems.get(i).wanting(now, media);
            }
            now = run(now, Optional.of(stems.get(i)), wanting, kept, part);
        }
        return now;
    }

    /** In how many passes {@link #runStems} does that. */
    public static int passes(Session session, List<StemShare> stems, Media media) {
        return stems.stream()
                .mapToInt(stem ->
                        Captures.passes(session, stem.wanting(session, media)).size())
                .sum();
    }

    private Session run(
            Session session, Optional<StemShare> stem, Set<HardwareSlot> wanting, Kept kept, Progress progress)
            throws WaterwheelException {
        Leftovers.sweep(folder.resolve(FOLDER));
        List<List<HardwareSlot>> passes = Captures.passes(session, wanting);
        Session now = session;
        for (int p = 0; p < passes.size(); p++) {
            Progress part = progress.part((double) p / passes.size(), (p + 1.0) / passes.size());
            List<Captured> captured;
            try (Media media = Media.open(now, folder);
                    Team team = Team.ofAllProcessors()) {
                captured = pass(now, stem, passes.get(p), media, team, part);
            }
            now = Captured.into(now, captured);
            kept.pass(captured);
        }
        return now;
    }

    private List<Captured> pass(
            Session session,
            Optional<StemShare> stem,
            List<HardwareSlot> slots,
            Media media,
            Team team,
            Progress progress)
            throws WaterwheelException {
        LiveLoops live = (channel, insert) -> slots.contains(new HardwareSlot(channel.id(), insert.id()));
        Plan plan = stem.map(share -> share.forCapture(share.fitted(session, media), live))
                .orElseGet(() -> PlanCompiler.forCapture(session, live));
        int rate = session.sampleRateHz();
        long frames = session.lengthFrames() + Math.round(TAIL_SECONDS * rate);
        List<Take> takes = new ArrayList<>();
        port.open(rate, block);
        try {
            settle(rate);
            for (HardwareSlot slot : slots) {
                takes.add(Take.begin(folder.resolve(FOLDER), session, plan, slot, frames));
            }
            record(plan, media, team, takes, frames, session.rack().monitorPair(), progress);
            List<SlotState> states =
                    stem.map(share -> share.states(session, media)).orElseGet(() -> Captures.of(session, media));
            Set<SourceId> taken = session.sourceIds();
            List<Captured> captured = new ArrayList<>();
            for (Take take : takes) {
                captured.add(take.finished(FOLDER, states, stem.map(StemShare::stem), taken));
            }
            progress.at(1);
            return captured;
        } finally {
            port.close();
            for (Take take : takes) {
                take.close();
            }
        }
    }

    private void settle(int rate) {
        PortBuffers silent = new PortBuffers(port.inputs(), port.outputs(), block);
        for (int at = 0; at < SETTLE_SECONDS * rate; at += block) {
            port.read(silent.in(), block);
            port.write(silent.out(), block);
        }
    }

    private void record(
            Plan plan, Media media, Team team, List<Take> takes, long frames, int monitorPair, Progress progress)
            throws AudioFileException {
        BitSet wanted = new BitSet();
        takes.forEach(take -> wanted.set(take.returned()));
        PortBuffers buffers = new PortBuffers(port.inputs(), port.outputs(), block);
        PlanRun run = PlanRun.of(plan, media, team, block, wanted, buffers);
        PortPatch patch = new PortPatch(plan, port.outputs(), monitorPair);
        int latest = takes.stream().mapToInt(Take::late).max().orElse(0);
        long end = frames + latest;
        for (long at = 0; at < end; at += block) {
            progress.check();
            int count = (int) Math.min(block, end - at);
            port.read(buffers.in(), count);
            run.process(at, count);
            patch.collectSends(run, buffers.out(), count);
            port.write(buffers.out(), count);
            for (Take take : takes) {
                take.hear(run, at, count);
            }
            progress.at((double) at / end);
        }
    }
}
