package waterwheel.core.engine;

import java.util.Arrays;
import java.util.BitSet;
import java.util.Map;
import java.util.NavigableMap;
import org.jspecify.annotations.Nullable;
import waterwheel.core.metering.PeakScan;
import waterwheel.core.metering.SeriesMeter;
import waterwheel.core.processing.DelayLine;
import waterwheel.core.work.Progress;
import waterwheel.core.work.Team;

/**
 * A plan in motion. Work is divided into tasks of one signal each, which hand blocks to each other
 * ({@link Dataflow}). Playback computes block by block. Over a whole stretch of the song every signal has several
 * buffers, so that several blocks are in work at a time and a chain of channels keeps several threads busy.
 * Construction allocates everything; {@link #process} allocates nothing.
 *
 * <p>One thread calls it; the signals may be read between calls of {@link #process}. A run for playback can come to other
 * values of its plan while it plays ({@link #values}, {@link #take}): gains and settings go there in straight lines, and
 * processors keep what they remember.
 */
public final class PlanRun {
    /**
     * How many blocks of a stretch may be in work at a time: enough to even out tasks of different lengths; with more, what
     * one task leaves for the next has gone from the processor's cache (with six a change takes 7 % longer).
     */
    private static final int SLOTS = 3;

    private static final int NOTHING = -1;
    private static final long[] NO_TIMES = {};
    private final Plan plan;
    private final Team team;
    private final int maxFrames;
    private final int slots;
    private final float[][][][] signals;
    private final TaskGraph tasks = new TaskGraph();
    private @Nullable Dataflow flow;
    private @Nullable TaskClock clock;
    private boolean clocked;

    private final boolean moves;
    private final InPlace places;
    private final SignalTasks made;
    private final EffectParts[] effects;
    private long expected;

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
            boolean stretch,
            boolean moves,
            PortBuffers ports) {
        this.moves = moves;
        this.plan = plan;
        this.team = team;
        this.maxFrames = maxFrames;
        this.slots = slots;
        int count = plan.signals().size();
        BitSet needed = plan.reaching(wanted);
        places = stretch ? InPlace.of(plan, needed, wanted) : InPlace.none(plan);
        signals = new float[slots][count][][];
        made = new SignalTasks(plan, media, maxFrames, moves, ports, signals, this::computes);
        for (int i = 0; i < count; i++) {
            if (needed.get(i)) {
                for (float[][][] slot : signals) {
                    slot[i] = places.is(i)
                            ? slot[places.input(i)]
                            : new float[plan.signals().get(i).planes()][maxFrames];
                }
                made.prepare(i);
            }
        }
        effects = made.effects().values().toArray(EffectParts[]::new);
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
        return new PlanRun(plan, media, team, maxFrames, wanted, 1, false, false, ports);
    }

    /**
     * Prepares a run like {@link #of} for whole stretches of the song; it knows no {@link #process}, and only wanted signals
     * can be listened to.
     */
    public static PlanRun ofStretch(Plan plan, Media media, Team team, int blockFrames, BitSet wanted) {
        return new PlanRun(
                plan,
                media,
                team,
                blockFrames,
                wanted,
                team.threads() > 1 ? slots(plan, blockFrames) : 1,
                true,
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
        return new PlanRun(plan, media, team, maxFrames, plan.heard(), 1, false, true, ports);
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
        return new Values(
                made.movers().stream().map(mover -> mover.apply(newer)).toArray(Runnable[]::new));
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
            hears(index, meter.quick(part), slot -> {
                float[][] buffers = signals[slot][index];
                return (first, count) -> {
                    if (made.notes().due(first)) {
                        meter.note(part, first);
                    }
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
        hears(
                index,
                true,
                slot -> made.eachPlane(
                        slot,
                        index,
                        (plane, buffer) ->
                                (first, count) -> taps[plane].offer(scans[plane].loudest(buffer, 0, count))));
    }

    /** Has it shown by how many dB the insert behind a signal turns down. Call before the first block. */
    public void tapReduction(int index, PeakTap tap) {
        EffectParts effect = made.effects().get(plan.signals().get(index).id());
        if (effect != null) {
            hears(index, true, slot -> (first, count) -> tap.offer((float) effect.reductionDb()));
        }
    }

    /** Has a signal heard while it runs, block after block. Call before the first block. */
    public void listen(int index, SignalListener listener) {
        hears(index, false, slot -> {
            float[][] buffers = signals[slot][index];
            return (first, count) -> listener.hear(buffers, first, count);
        });
    }

    /**
     * Has a signal's samples kept while it runs. Call before the first block.
     *
     * @param from the first frame that is kept, as the run counts: what delays say before they have heard enough is not
     *     what the song has there
     * @param to the frame after the last one
     */
    public void keep(int index, KeptSignal kept, long from, long to) {
        hears(
                index,
                true,
                slot -> made.eachPlane(slot, index, (plane, buffer) -> (first, count) -> {
                    int skipped = Math.clamp(from - first, 0, count);
                    int end = Math.clamp(to - first, 0, count);
                    if (end > skipped) {
                        kept.write(plane, first + skipped, buffer, skipped, end - skipped);
                    }
                }));
    }

    /**
     * Has it noted what processors, delays and meters remember at the frames that divide by a number, which must be one of
     * whole blocks. Call before the first block.
     *
     * @param mostBytes what the notes of processors and delays may take; what finds no room is not noted
     */
    public void noteEvery(long frames, long mostBytes) {
        made.notes().every(frames, mostBytes);
    }

    /** By frame what a signal remembers there, as far as it was noted; read it after the run. */
    public NavigableMap<Long, Remembered> noted(int index) {
        return made.notes().of(index);
    }

    /**
     * Has it begin at a frame where another run noted what it remembered.
     *
     * @param remembered by index what each of its signals that remembers goes on from
     */
    public void goOn(long frame, Map<Integer, Remembered> remembered) {
        seek(frame);
        expected = frame;
        remembered.forEach((index, before) -> {
            SignalId id = plan.signals().get(index).id();
            EffectParts effect = made.effects().get(id);
            if (effect != null) {
                before.into(effect);
            }
            DelayLine[] lines = made.delays().get(id);
            if (lines != null) {
                before.into(lines);
            }
        });
    }

    /** A task that computes a signal or some of its planes. */
    private void computes(int index, SignalTasks.Work work) {
        checkOpen();
        BitSet inputs = new BitSet();
        plan.signals().get(index).inputs().forEach(edge -> inputs.set(edge.from()));
        tasks.computes(index, inputs, work);
    }

    /**
     * A task that only listens to a signal.
     *
     * @param quick whether it takes no longer than handing the samples to another thread
     */
    private void hears(int index, boolean quick, SignalTasks.Work work) {
        if (places.overwritten(index)) {
            throw new IllegalArgumentException("index: " + index + " (expected: a signal that was wanted)");
        }
        checkOpen();
        tasks.hears(index, quick, work);
    }

    private void checkOpen() {
        if (flow != null) {
            throw new IllegalStateException("run: already started (expected: listeners before the first block)");
        }
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
            for (EffectParts effect : effects) {
                effect.reset();
            }
            seek(from);
            made.delays().values().forEach(lines -> Arrays.stream(lines).forEach(DelayLine::reset));
        }
        expected = to;
        return sealed;
    }

    private void seek(long frame) {
        for (EffectParts effect : effects) {
            effect.seek(frame);
        }
    }

    /** Makes all tasks ready. The first block does that otherwise, which in playback has no time for it. */
    public void ready() {
        seal();
    }

    private Dataflow seal() {
        Dataflow sealed = flow;
        if (sealed == null) {
            clock = clocked ? tasks.clock(signals[0].length) : null;
            sealed = tasks.flow(slots, places, team, maxFrames, clock);
            flow = sealed;
        }
        return sealed;
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
        made.effects().forEach((id, effect) -> {
            EffectParts before = other.made.effects().get(id);
            if (before != null) {
                effect.adopt(before);
            }
        });
        made.delays().forEach((id, lines) -> {
            DelayLine[] before = other.made.delays().get(id);
            for (int p = 0; before != null && p < Math.min(lines.length, before.length); p++) {
                lines[p].adopt(before[p]);
            }
        });
        expected = next;
        seek(next);
    }
}
