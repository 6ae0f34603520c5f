package waterwheel.core.engine;

import java.util.ArrayList;
import java.util.Arrays;
import java.util.BitSet;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.function.BiConsumer;
import java.util.function.Function;
import java.util.stream.IntStream;
import org.jspecify.annotations.Nullable;
import waterwheel.core.inserts.Insert;
import waterwheel.core.instruments.LiveKeys;
import waterwheel.core.instruments.Performer;
import waterwheel.core.metering.PeakScan;
import waterwheel.core.metering.SeriesMeter;
import waterwheel.core.path.GainMatrix;
import waterwheel.core.path.Motion;
import waterwheel.core.processing.DelayLine;
import waterwheel.core.processing.Effect;
import waterwheel.core.processing.Effects;
import waterwheel.core.processing.Site;
import waterwheel.core.processing.SlotEffect;
import waterwheel.core.session.Listen;
import waterwheel.core.work.Progress;
import waterwheel.core.work.Team;

/**
 * A plan in motion. Work is divided into tasks of one signal's plane each, which hand blocks to each other
 * ({@link Dataflow}). Playback computes block by block. Over a whole stretch of the song every signal has several
 * buffers, so that several blocks are in work at a time and a chain of channels keeps several threads busy.
 * Construction allocates everything; {@link #process} allocates nothing.
 *
 * <p>One thread calls it; the signals may be read between calls of {@link #process}. A run for playback can come to other
 * values of its plan while it plays ({@link #values}, {@link #take}): gains and settings go there in straight lines, and
 * processors keep what they remember.
 */
public final class PlanRun {
    /** How many blocks of a stretch may be in work at a time: enough to even out tasks of different lengths. */
    private static final int SLOTS = 6;

    private static final int NOTHING = -1;
    private static final long[] NO_TIMES = {};
    /** How long values take to where they move. */
    private static final double MOVE_SECONDS = 0.02;

    private final Plan plan;
    private final Team team;
    private final int maxFrames;
    private final int slots;
    private final PortBuffers ports;
    private final float[][][][] signals;
    private final List<Task> tasks = new ArrayList<>();
    private @Nullable Dataflow flow;
    private @Nullable TaskClock clock;
    private boolean clocked;

    private final boolean moves;
    private final int moveFrames;
    /** What changes when the plan's values do: from a plan of the same shape to what has to be done. */
    private final List<Function<Plan, Runnable>> movers = new ArrayList<>();

    private final Map<SignalId, Effect> effects = new HashMap<>();
    private final List<SongStart> starts = new ArrayList<>();
    private final Map<SignalId, DelayLine[]> delays = new HashMap<>();
    private long expected;

    /** What a task does to the buffers of one slot. */
    private interface Work {
        BlockTask in(int slot);
    }

    /**
     * A task on its way into the dataflow.
     *
     * @param hears the signals that it reads
     * @param writes the signal that it computes, or {@link #NOTHING}
     */
    private record Task(BitSet hears, int writes, Work work) {
        int owner(int others) {
            return writes == NOTHING ? others : writes;
        }
    }

    /** Values that a run can come to. */
    public static final class Values {
        private final Runnable[] changes;

        private Values(Runnable[] changes) {
            this.changes = changes;
        }
    }

    private PlanRun(
            Plan plan,
            Media media,
            Team team,
            int maxFrames,
            BitSet wanted,
            int slots,
            boolean moves,
            PortBuffers ports) {
        this.ports = ports;
        this.moves = moves;
        moveFrames = Math.max(1, (int) Math.round(MOVE_SECONDS * plan.sampleRateHz()));
        this.plan = plan;
        this.team = team;
        this.maxFrames = maxFrames;
        this.slots = slots;
        int count = plan.signals().size();
        BitSet needed = plan.reaching(wanted);
        signals = new float[slots][count][][];
        for (int i = 0; i < count; i++) {
            if (needed.get(i)) {
                for (float[][][] slot : signals) {
                    slot[i] = new float[plan.signals().get(i).planes()][maxFrames];
                }
                prepare(i, media);
            }
        }
    }

    /**
     * Prepares a run that computes only what reaches the wanted signals through gains that are not 0, block by block.
     *
     * @param maxFrames the largest block
     * @param wanted indices of signals in the plan
     */
    public static PlanRun of(Plan plan, Media media, Team team, int maxFrames, BitSet wanted) {
        return of(plan, media, team, maxFrames, wanted, PortBuffers.NONE);
    }

    /** Prepares a run like the other whose loops go through an interface. */
    public static PlanRun of(Plan plan, Media media, Team team, int maxFrames, BitSet wanted, PortBuffers ports) {
        return new PlanRun(plan, media, team, maxFrames, wanted, 1, false, ports);
    }

    /** Prepares a run like {@link #of} for whole stretches of the song; it knows no {@link #process}. */
    public static PlanRun ofStretch(Plan plan, Media media, Team team, int blockFrames, BitSet wanted) {
        return new PlanRun(
                plan,
                media,
                team,
                blockFrames,
                wanted,
                team.threads() > 1 ? slots(plan, blockFrames) : 1,
                false,
                PortBuffers.NONE);
    }

    /** Fewer for a session of thousands of channels, whose buffers would fill the memory. */
    private static int slots(Plan plan, int blockFrames) {
        long planes = plan.signals().stream().mapToLong(Signal::planes).sum();
        long bytes = Math.max(1, planes * blockFrames * Float.BYTES);
        return Math.clamp(Runtime.getRuntime().maxMemory() / 8 / bytes, 1, SLOTS);
    }

    /** Prepares a run for playback, of every signal that is heard, which can come to other values of its plan. */
    public static PlanRun ofAll(Plan plan, Media media, Team team, int maxFrames) {
        return ofAll(plan, media, team, maxFrames, PortBuffers.NONE);
    }

    /** Prepares a run for playback whose loops go through an interface. */
    public static PlanRun ofAll(Plan plan, Media media, Team team, int maxFrames, PortBuffers ports) {
        return new PlanRun(plan, media, team, maxFrames, plan.heard(), 1, true, ports);
    }

    private void prepare(int index, Media media) {
        switch (plan.signals().get(index)) {
            case Signal.Source source -> {
                ClipReader reader = new ClipReader(source, media, maxFrames);
                computes(index, slot -> {
                    float[][] buffers = signals[slot][index];
                    return (first, count) -> reader.read(first, buffers, count);
                });
            }
            case Signal.Played played -> {
                Performer performer =
                        Performer.of(played.performance(), played.planes(), plan.sampleRateHz(), media::sample);
                computes(index, slot -> {
                    float[][] buffers = signals[slot][index];
                    return (first, count) -> {
                        performer.read(first, buffers, count);
                        LiveKeys keys = ports.keys(played.player());
                        if (keys != null) {
                            keys.add(played.performance().output(), buffers, count);
                        }
                    };
                });
            }
            case Signal.Kept kept ->
                eachPlane(
                        index,
                        this::computes,
                        (plane, buffer) -> (first, count) -> kept.samples().read(plane, first, buffer, count));
            case Signal.Sum sum -> {
                for (int p = 0; p < sum.planes(); p++) {
                    int plane = p;
                    computes(
                            index,
                            slot -> sumTask(
                                    slot, signals[slot][index][plane], sum.inputs(), plane, newer -> newer.signals()
                                            .get(index)
                                            .inputs()));
                }
            }
            case Signal.Processed processed -> prepare(index, processed, media);
            case Signal.Returned returned ->
                eachPlane(
                        index,
                        this::computes,
                        (plane, buffer) -> incomingTask(returned.returnPort() - 1 + plane, buffer));
            case Signal.Incoming incoming ->
                eachPlane(index, this::computes, (plane, buffer) -> incomingTask(incoming.port() - 1 + plane, buffer));
            case Signal.Listened listened -> computes(index, slot -> listenedTask(index, listened, slot));
            case Signal.Ridden ridden -> computes(index, slot -> riddenTask(index, ridden, slot));
            case Signal.Delayed late -> {
                DelayLine[] lines = new DelayLine[late.planes()];
                Arrays.setAll(lines, p -> new DelayLine(late.frames(), maxFrames));
                delays.put(late.id(), lines);
                for (int p = 0; p < lines.length; p++) {
                    int plane = p;
                    computes(index, slot -> {
                        float[] from = signals[slot][late.from()][plane];
                        float[] to = signals[slot][index][plane];
                        return (first, count) -> lines[plane].process(from, to, count);
                    });
                }
            }
        }
    }

    /** The sum of the input goes into the signal's own buffers, and is processed there. */
    private void prepare(int index, Signal.Processed processed, Media media) {
        int planes = processed.planes();
        SlotEffect started = Effects.start(
                processed.insert(),
                new Site(
                        plan.sampleRateHz(),
                        planes,
                        maxFrames,
                        processed
                                .insert()
                                .processor()
                                .response()
                                .map(media::response)
                                .orElse(null)));
        Effect effect = processed.insert().rides().anyActive()
                ? new RiddenEffect(started, new InsertRides(processed.insert()), planes, maxFrames)
                : started;
        effects.put(processed.id(), effect);
        if (moves) {
            movers.add(
                    newer -> mover(effect, ((Signal.Processed) newer.signals().get(index)).insert()));
        }
        SongStart start =
                new SongStart(effect, plan.latencies().get(processed.input().from()), planes, maxFrames);
        starts.add(start);
        computes(index, slot -> {
            float[][] buffers = signals[slot][index];
            float[][] key =
                    processed.key().isPresent() ? signals[slot][processed.key().getAsInt()] : null;
            BlockTask[] sums = new BlockTask[planes];
            Arrays.setAll(
                    sums,
                    p -> sumTask(
                            slot,
                            buffers[p],
                            List.of(processed.input()),
                            p,
                            newer -> List.of(((Signal.Processed) newer.signals().get(index)).input())));
            return (first, count) -> {
                for (BlockTask sum : sums) {
                    sum.run(first, count);
                }
                start.process(first, buffers, key, count);
            };
        });
    }

    private BlockTask incomingTask(int port, float[] to) {
        return port < ports.in().length
                ? (first, count) -> System.arraycopy(ports.in()[port], 0, to, 0, count)
                : (first, count) -> Arrays.fill(to, 0, count, 0);
    }

    private BlockTask listenedTask(int index, Signal.Listened listened, int slot) {
        float[][][] all = signals[slot];
        ListenedTask task = new ListenedTask(
                listened.id().channel(),
                listened.listen(),
                ports,
                all[listened.recorded()],
                all[listened.incoming()],
                all[index]);
        movers.add(newer -> {
            Listen listen = ((Signal.Listened) newer.signals().get(index)).listen();
            return () -> task.use(listen);
        });
        return task;
    }

    private Runnable mover(Effect effect, Insert insert) {
        if (effect instanceof RiddenEffect ridden) {
            InsertRides rides = new InsertRides(insert);
            return () -> ridden.use(rides, moveFrames);
        }
        double[] values = insert.processor().array();
        return () -> {
            effect.move(values, moveFrames);
            ((SlotEffect) effect).moveMix(insert.outputDb(), insert.mix(), moveFrames);
        };
    }

    private BlockTask riddenTask(int index, Signal.Ridden ridden, int slot) {
        float[][] out = signals[slot][index];
        // Planes that are mixed must be there while the result is written.
        boolean mixes = ridden.motion().gains() > 1;
        GainMatrix gain = ridden.input().gain();
        boolean asItIs = !moves && gain.equals(GainMatrix.diagonal(gain.toPlanes(), 1));
        float[][] before =
                asItIs ? signals[slot][ridden.input().from()] : mixes ? new float[gain.toPlanes()][maxFrames] : out;
        BlockTask[] inputs = new BlockTask[asItIs ? 0 : before.length];
        Arrays.setAll(
                inputs,
                p -> sumTask(
                        slot,
                        before[p],
                        List.of(ridden.input()),
                        p,
                        newer -> List.of(((Signal.Ridden) newer.signals().get(index)).input())));
        RiddenTask task = new RiddenTask(
                ridden.motion(), inputs, before, out, plan.latencies().get(index));
        if (moves) {
            movers.add(newer -> {
                Motion motion = ((Signal.Ridden) newer.signals().get(index)).motion();
                MotionReader reader = new MotionReader(motion);
                return () -> task.use(reader, moveFrames);
            });
        }
        return task;
    }

    private interface PlaneTask {
        BlockTask of(int plane, float[] buffer);
    }

    private void eachPlane(int index, BiConsumer<Integer, Work> adding, PlaneTask task) {
        for (int p = 0; p < plan.signals().get(index).planes(); p++) {
            int plane = p;
            adding.accept(index, slot -> task.of(plane, signals[slot][index][plane]));
        }
    }

    /** @param newer the same edges in a plan of other values */
    private BlockTask sumTask(
            int slot, float[] out, List<Signal.Edge> edges, int plane, Function<Plan, List<Signal.Edge>> newer) {
        List<float[]> inputs = new ArrayList<>();
        for (Signal.Edge edge : edges) {
            for (int from = 0; from < edge.gain().fromPlanes(); from++) {
                if (moves || edge.gain().gain(plane, from) != 0) {
                    inputs.add(signals[slot][edge.from()][from]);
                }
            }
        }
        float[][] terms = inputs.toArray(float[][]::new);
        if (!moves) {
            return new SumTask(
                    out,
                    terms,
                    Arrays.stream(gains(edges, plane)).filter(g -> g != 0).toArray());
        }
        MovingSum task = new MovingSum(out, terms, gains(edges, plane));
        movers.add(plan -> {
            double[] to = gains(newer.apply(plan), plane);
            return () -> task.move(to, moveFrames);
        });
        return task;
    }

    /** The gains of all terms of a plane of a sum, those of 0 among them. */
    private static double[] gains(List<Signal.Edge> edges, int plane) {
        return edges.stream()
                .map(Signal.Edge::gain)
                .flatMapToDouble(
                        gain -> IntStream.range(0, gain.fromPlanes()).mapToDouble(from -> gain.gain(plane, from)))
                .toArray();
    }

    /**
     * Prepares what a plan of other values has this run come to. Only for a run for playback that is ready; may be called by
     * another thread than the one that runs.
     *
     * @param newer of the same shape as this run's plan
     */
    public Values values(Plan newer) {
        if (!moves || flow == null) {
            throw new IllegalStateException("run: not ready (expected: one for playback that is)");
        }
        return new Values(movers.stream().map(mover -> mover.apply(newer)).toArray(Runnable[]::new));
    }

    /** Has everything move to other values, between two blocks; allocates nothing. */
    public void take(Values values) {
        for (Runnable change : values.changes) {
            change.run();
        }
    }

    /**
     * Has a signal measured while it runs. Call before the first block.
     *
     * @param from the first frame of the song that is measured
     * @param to the frame after the last one; a signal that is late is measured as much later
     */
    public void meter(int index, SeriesMeter meter, long from, long to) {
        int late = plan.latencies().get(index);
        for (int p = 0; p < meter.parts(); p++) {
            int part = p;
            hears(index, slot -> {
                float[][] buffers = signals[slot][index];
                return (first, count) -> {
                    int skipped = Math.clamp(from + late - first, 0, count);
                    int end = Math.clamp(to + late - first, 0, count);
                    if (end > skipped) {
                        meter.process(part, buffers, skipped, end - skipped);
                    }
                };
            });
        }
    }

    /** Has a signal's peaks shown while it runs, one tap a plane. Call before the first block. */
    public void tap(int index, PeakTap[] taps) {
        PeakScan[] scans = new PeakScan[taps.length];
        Arrays.setAll(scans, p -> new PeakScan());
        eachPlane(
                index,
                this::hears,
                (plane, buffer) -> (first, count) -> taps[plane].offer(scans[plane].loudest(buffer, 0, count)));
    }

    /** Has it shown by how many dB the insert behind a signal turns down. Call before the first block. */
    public void tapReduction(int index, PeakTap tap) {
        Effect effect = effects.get(plan.signals().get(index).id());
        if (effect != null) {
            hears(index, slot -> (first, count) -> tap.offer((float) effect.reductionDb()));
        }
    }

    /** Has a signal heard while it runs, block after block. Call before the first block. */
    public void listen(int index, SignalListener listener) {
        hears(index, slot -> {
            float[][] buffers = signals[slot][index];
            return (first, count) -> listener.hear(buffers, first, count);
        });
    }

    /** Has a signal's samples kept while it runs. Call before the first block. */
    public void keep(int index, KeptSignal kept) {
        eachPlane(index, this::hears, (plane, buffer) -> (first, count) -> kept.write(plane, first, buffer, count));
    }

    /** A task that computes a signal or a plane of it. */
    private void computes(int index, Work work) {
        BitSet inputs = new BitSet();
        plan.signals().get(index).inputs().forEach(edge -> inputs.set(edge.from()));
        add(new Task(inputs, index, work));
    }

    /** A task that only listens to a signal. */
    private void hears(int index, Work work) {
        BitSet only = new BitSet();
        only.set(index);
        add(new Task(only, NOTHING, work));
    }

    private void add(Task task) {
        if (flow != null) {
            throw new IllegalStateException("run: already started (expected: listeners before the first block)");
        }
        tasks.add(task);
    }

    /**
     * Computes one block of every signal.
     *
     * @param first the block's first frame on the song's line, 0 or later
     * @param count its length, at most the largest block
     */
    public void process(long first, int count) {
        begin(first, first + count).run(first, first + count, Progress.NONE);
    }

    /**
     * Computes a stretch of the song, which only listeners hear.
     *
     * @param from the stretch's first frame on the song's line, 0 or later
     * @param to the frame after its last one
     * @throws java.util.concurrent.CancellationException if the progress says stop
     */
    public void stretch(long from, long to, Progress progress) {
        begin(from, to).run(from, to, progress);
    }

    private Dataflow begin(long from, long to) {
        Dataflow sealed = seal();
        if (from != expected) {
            // What processors remember belongs to another place of the song.
            effects.values().forEach(Effect::reset);
            seek(from);
            delays.values().forEach(lines -> Arrays.stream(lines).forEach(DelayLine::reset));
        }
        expected = to;
        return sealed;
    }

    private void seek(long frame) {
        for (int i = 0; i < starts.size(); i++) {
            starts.get(i).seek(frame);
        }
    }

    /** Makes all tasks ready. The first block does that otherwise, which in playback has no time for it. */
    public void ready() {
        seal();
    }

    private Dataflow seal() {
        Dataflow sealed = flow;
        if (sealed == null) {
            sealed = flow();
            flow = sealed;
        }
        return sealed;
    }

    private Dataflow flow() {
        BlockTask[][] work = new BlockTask[slots][];
        for (int s = 0; s < slots; s++) {
            int slot = s;
            work[s] = tasks.stream().map(task -> task.work().in(slot)).toArray(BlockTask[]::new);
        }
        Map<Integer, List<Integer>> writers = new HashMap<>();
        for (int i = 0; i < tasks.size(); i++) {
            writers.computeIfAbsent(tasks.get(i).writes(), signal -> new ArrayList<>())
                    .add(i);
        }
        int[][] hears = tasks.stream()
                .map(task -> task.hears().stream()
                        .flatMap(signal ->
                                writers.getOrDefault(signal, List.of()).stream().mapToInt(i -> i))
                        .toArray())
                .toArray(int[][]::new);
        if (clocked) {
            clock = new TaskClock(
                    tasks.stream()
                            .mapToInt(task -> task.owner(signals[0].length))
                            .toArray(),
                    signals[0].length + 1);
        }
        return new Dataflow(work, hears, team, maxFrames, clock);
    }

    /**
     * Has it measured what each signal takes. Call before the first block; for a run on one thread, which alone does one
     * thing after the other.
     */
    public void clocked() {
        if (flow != null || team.threads() > 1) {
            throw new IllegalStateException("run: started, or on several threads (expected: neither)");
        }
        clocked = true;
    }

    /** Begins the clock of a block anew, which should be done by a time of {@link System#nanoTime}. */
    public void due(long nanos) {
        if (clock != null) {
            clock.due(nanos);
        }
    }

    /**
     * What the signals of the block took since it began to be clocked, in ns, by their index; last what listens to them,
     * such as meters. The run's own array; empty for one that is not clocked.
     */
    public long[] spent() {
        return clock == null ? NO_TIMES : clock.spent();
    }

    /** The signal that was at work when the block's time ran out, as in {@link #spent}; -1 where it did not. */
    public int late() {
        return clock == null ? NOTHING : clock.late();
    }

    /**
     * The samples of the last block, {@code [plane][0 .. count)}; the run's own arrays.
     *
     * @throws IllegalArgumentException if the signal is not computed by this run
     */
    public float[][] signal(int index) {
        if (signals[0][index] == null) {
            throw new IllegalArgumentException("index: " + index + " (expected: a signal that was wanted)");
        }
        return signals[0][index];
    }

    public Plan plan() {
        return plan;
    }

    /**
     * Has processors go on from where those of another run stand that has the same inserts.
     *
     * @param next the frame with which this run will begin
     */
    public void adopt(PlanRun other, long next) {
        effects.forEach((id, effect) -> {
            Effect before = other.effects.get(id);
            if (before != null) {
                effect.adopt(before);
            }
        });
        delays.forEach((id, lines) -> {
            DelayLine[] before = other.delays.get(id);
            for (int p = 0; before != null && p < Math.min(lines.length, before.length); p++) {
                lines[p].adopt(before[p]);
            }
        });
        expected = next;
        seek(next);
    }
}
