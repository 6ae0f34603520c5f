package waterwheel.core.captures;

import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.BitSet;
import java.util.HashSet;
import java.util.List;
import java.util.Map;
import java.util.Objects;
import java.util.Optional;
import java.util.Set;
import java.util.stream.Collectors;
import waterwheel.core.audiofile.ContentHash;
import waterwheel.core.audiofile.SampleEncoding;
import waterwheel.core.audiofile.WavWriter;
import waterwheel.core.engine.Media;
import waterwheel.core.engine.Plan;
import waterwheel.core.engine.PlanCompiler;
import waterwheel.core.engine.PlanRun;
import waterwheel.core.engine.PortBuffers;
import waterwheel.core.engine.PortPatch;
import waterwheel.core.errors.AudioFileException;
import waterwheel.core.errors.WaterwheelException;
import waterwheel.core.levels.MeasureCache;
import waterwheel.core.levels.SongMeasure;
import waterwheel.core.metering.Detail;
import waterwheel.core.metering.Figures;
import waterwheel.core.metering.LevelSeries;
import waterwheel.core.ports.AudioPort;
import waterwheel.core.rack.Capture;
import waterwheel.core.session.Session;
import waterwheel.core.sources.AudioSource;
import waterwheel.core.sources.SourceId;
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
    /** Nearer to full scale than this a converter has clipped. */
    private static final float FULL_SCALE = 0.999_999f;

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
        List<List<HardwareSlot>> passes = Captures.passes(session, wanting);
        Session now = session;
        for (int p = 0; p < passes.size(); p++) {
            Progress part = progress.part((double) p / passes.size(), (p + 1.0) / passes.size());
            List<Captured> captured;
            try (Media media = Media.open(now, folder);
                    Team team = Team.ofAllProcessors()) {
                captured = pass(now, passes.get(p), media, team, part);
            }
            for (Captured one : captured) {
                now = one.into(now);
            }
            kept.pass(captured);
        }
        return now;
    }

    /** What is recorded of one slot. */
    private static final class Take {
        private final HardwareSlot slot;
        private final int returned;
        private final int late;
        private final Path file;
        private final WavWriter writer;
        private long clipped;

        Take(HardwareSlot slot, int returned, int late, Path file, WavWriter writer) {
            this.slot = slot;
            this.returned = returned;
            this.late = late;
            this.file = file;
            this.writer = writer;
        }

        void hear(float[][] signal, int from, int count) throws AudioFileException {
            writer.write(signal, from, count);
            for (float[] plane : signal) {
                for (int i = from; i < from + count; i++) {
                    clipped += Math.abs(plane[i]) >= FULL_SCALE ? 1 : 0;
                }
            }
        }
    }

    private List<Captured> pass(Session session, List<HardwareSlot> slots, Media media, Team team, Progress progress)
            throws WaterwheelException {
        Plan plan = PlanCompiler.forCapture(
                session, (channel, insert) -> slots.contains(new HardwareSlot(channel.id(), insert.id())));
        int rate = session.sampleRateHz();
        long frames = session.lengthFrames() + Math.round(TAIL_SECONDS * rate);
        List<Take> takes = new ArrayList<>();
        port.open(rate, block);
        try {
            settle(rate);
            for (HardwareSlot slot : slots) {
                takes.add(begin(session, plan, slot, frames));
            }
            record(plan, media, team, takes, frames, session.rack().monitorPair(), progress.part(0, 0.95));
            List<Captured> captured = finished(session, takes, media, team, progress.part(0.95, 1));
            progress.at(1);
            return captured;
        } finally {
            port.close();
            for (Take take : takes) {
                take.writer.close();
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

    private Take begin(Session session, Plan plan, HardwareSlot slot, long frames) throws WaterwheelException {
        int returned = Captures.returned(plan, slot, false);
        int late = plan.latencies().get(Captures.sent(plan, slot, false));
        Path file = free(slot);
        WavWriter writer = WavWriter.createExact(
                file, plan.signals().get(returned).planes(), session.sampleRateHz(), SampleEncoding.FLOAT_32, frames);
        return new Take(slot, returned, late, file, writer);
    }

    /** A name that no file has: recordings are never replaced. */
    private Path free(HardwareSlot slot) throws AudioFileException {
        Path captures = folder.resolve(FOLDER);
        try {
            Files.createDirectories(captures);
        } catch (IOException e) {
            throw AudioFileException.cannotWrite(captures, e);
        }
        int number = 1;
        while (true) {
            Path file =
                    captures.resolve(slot.channel().value() + "-" + slot.slot().value() + "-" + number + ".wav");
            if (!Files.exists(file)) {
                return file;
            }
            number++;
        }
    }

    private void record(
            Plan plan, Media media, Team team, List<Take> takes, long frames, int monitorPair, Progress progress)
            throws AudioFileException {
        BitSet wanted = new BitSet();
        takes.forEach(take -> wanted.set(take.returned));
        PortBuffers buffers = new PortBuffers(port.inputs(), port.outputs(), block);
        PlanRun run = PlanRun.of(plan, media, team, block, wanted, buffers);
        PortPatch patch = new PortPatch(plan, port.outputs(), monitorPair);
        int latest = takes.stream().mapToInt(take -> take.late).max().orElse(0);
        long end = frames + latest;
        for (long at = 0; at < end; at += block) {
            progress.check();
            int count = (int) Math.min(block, end - at);
            port.read(buffers.in(), count);
            run.process(at, count);
            patch.collectSends(run, buffers.out(), count);
            port.write(buffers.out(), count);
            for (Take take : takes) {
                int from = Math.clamp(take.late - at, 0, count);
                int to = Math.clamp(take.late + frames - at, 0, count);
                if (to > from) {
                    take.hear(run.signal(take.returned), from, to - from);
                }
            }
            progress.at((double) at / end);
        }
    }

    private List<Captured> finished(Session session, List<Take> takes, Media media, Team team, Progress progress)
            throws AudioFileException {
        Plan plan = PlanCompiler.compile(session);
        BitSet sent = new BitSet();
        takes.forEach(take -> sent.set(Captures.sent(plan, take.slot, false)));
        List<SlotState> states = Captures.of(session, plan, media);
        Set<SourceId> taken =
                session.sources().stream().map(AudioSource::id).collect(Collectors.toCollection(HashSet::new));
        List<Captured> captured = new ArrayList<>();
        try (SongMeasure song = new SongMeasure(media, team, Detail.LEVELS, Detail.LEVELS, MeasureCache.none())) {
            Map<Integer, LevelSeries> measured = song.measure(plan, sent, progress);
            for (Take take : takes) {
                take.writer.finish();
                LevelSeries series = measured.get(Captures.sent(plan, take.slot, false));
                Figures figures = Figures.of(Objects.requireNonNull(series));
                String madeOf = states.stream()
                        .filter(state -> state.slot().equals(take.slot))
                        .findFirst()
                        .orElseThrow()
                        .madeOf();
                AudioSource source = source(session, take, taken);
                captured.add(new Captured(
                        take.slot,
                        source,
                        new Capture(source.id(), madeOf, figures.averageDbfs(), figures.samplePeakDbfs()),
                        take.clipped));
            }
        }
        return captured;
    }

    private static AudioSource source(Session session, Take take, Set<SourceId> taken) throws AudioFileException {
        String name = String.valueOf(take.file.getFileName());
        SourceId id = new SourceId("capture-" + name.substring(0, name.length() - ".wav".length()));
        for (int n = 2; !taken.add(id); n++) {
            id = new SourceId(id.value() + "-" + n);
        }
        try {
            long frames = session.lengthFrames() + Math.round(TAIL_SECONDS * session.sampleRateHz());
            return new AudioSource(
                    id,
                    FOLDER + "/" + name,
                    frames,
                    session.channel(take.slot.channel()).planes(),
                    session.sampleRateHz(),
                    SampleEncoding.FLOAT_32.label(),
                    ContentHash.of(take.file),
                    Files.getLastModifiedTime(take.file).toMillis(),
                    Optional.empty());
        } catch (IOException e) {
            throw AudioFileException.cannotWrite(take.file, e);
        }
    }
}
