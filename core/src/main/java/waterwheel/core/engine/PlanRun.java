package waterwheel.core.engine;

import java.util.ArrayList;
import java.util.Arrays;
import java.util.BitSet;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import waterwheel.core.metering.PeakScan;
import waterwheel.core.metering.SeriesMeter;
import waterwheel.core.processing.DelayLine;
import waterwheel.core.processing.Effect;
import waterwheel.core.processing.Effects;
import waterwheel.core.work.Progress;

/**
 * A plan in motion. Work is divided into tasks of one signal's plane each; a task's rank is how many others must run
 * before it in a block. Playback computes block by block, rank by rank. A whole stretch of the song runs as a pipeline
 * instead: while the first rank works on a block, the second works on the one before it, and so on, so that the team
 * meets once a block and a chain of channels keeps several threads busy. For that every signal has as many buffers as
 * there are ranks. Construction allocates everything; {@link #process} allocates nothing.
 *
 * <p>One thread calls it; the signals may be read between calls of {@link #process}.
 */
public final class PlanRun {
    private final Plan plan;
    private final Team team;
    private final int maxFrames;
    /** Which blocks are in work at a time: 1, or one for each rank. */
    private final int slots;

    private final float[][][][] signals;
    private final int[] ranks;
    private final BitSet needed;
    private final List<List<Work>> building = new ArrayList<>();
    private BlockTask[][][] tasks = new BlockTask[0][][];
    private boolean sealed;

    private final Map<SignalId, Effect> effects = new HashMap<>();
    private final Map<SignalId, DelayLine[]> delays = new HashMap<>();
    private final ByRank byRank = new ByRank();
    private long expected;

    /** What a task does to the buffers of one slot. */
    private interface Work {
        BlockTask in(int slot);
    }

    private PlanRun(Plan plan, Media media, Team team, int maxFrames, BitSet wanted, boolean pipelined) {
        this.plan = plan;
        this.team = team;
        this.maxFrames = maxFrames;
        int count = plan.signals().size();
        needed = plan.reaching(wanted);
        ranks = new int[count];
        for (int i = 0; i < count; i++) {
            ranks[i] = needed.get(i) ? rankBehind(plan.signals().get(i)) : 0;
        }
        // What listens to the last rank is one rank more.
        slots = pipelined ? Arrays.stream(ranks).max().orElse(0) + 2 : 1;
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
        return new PlanRun(plan, media, team, maxFrames, wanted, false);
    }

    /** Prepares a run like {@link #of} for whole stretches of the song; it knows no {@link #process}. */
    public static PlanRun ofStretch(Plan plan, Media media, Team team, int blockFrames, BitSet wanted) {
        return new PlanRun(plan, media, team, blockFrames, wanted, team.threads() > 1);
    }

    /** Prepares a run that computes every signal that is heard, for playback with its meters. */
    public static PlanRun ofAll(Plan plan, Media media, Team team, int maxFrames) {
        return new PlanRun(plan, media, team, maxFrames, plan.heard(), false);
    }

    private void prepare(int index, Media media) {
        int rank = ranks[index];
        switch (plan.signals().get(index)) {
            case Signal.Source source -> {
                ClipReader reader = new ClipReader(source, media, maxFrames);
                add(rank, slot -> {
                    float[][] buffers = signals[slot][index];
                    return (first, count) -> reader.read(first, buffers, count);
                });
            }
            case Signal.Kept kept ->
                eachPlane(
                        index,
                        rank,
                        (plane, buffer) -> (first, count) -> kept.samples().read(plane, first, buffer, count));
            case Signal.Sum sum -> {
                for (int p = 0; p < sum.planes(); p++) {
                    int plane = p;
                    add(rank, slot -> sumTask(slot, signals[slot][index][plane], sum.inputs(), plane));
                }
            }
            case Signal.Processed processed -> prepare(index, processed, media);
            case Signal.Delayed late -> {
                DelayLine[] lines = new DelayLine[late.planes()];
                Arrays.setAll(lines, p -> new DelayLine(late.frames(), maxFrames));
                delays.put(late.id(), lines);
                for (int p = 0; p < lines.length; p++) {
                    int plane = p;
                    add(rank, slot -> {
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
        Effect effect = Effects.start(
                processed.insert(),
                plan.sampleRateHz(),
                planes,
                maxFrames,
                processed.insert().processor().response().map(media::response).orElse(null));
        effects.put(processed.id(), effect);
        addFirst(ranks[index], slot -> {
            float[][] buffers = signals[slot][index];
            float[][] key =
                    processed.key().isPresent() ? signals[slot][processed.key().getAsInt()] : null;
            SumTask[] sums = new SumTask[planes];
            Arrays.setAll(sums, p -> sumTask(slot, buffers[p], List.of(processed.input()), p));
            return (first, count) -> {
                for (SumTask sum : sums) {
                    sum.run(first, count);
                }
                effect.process(buffers, key, count);
            };
        });
    }

    private interface PlaneTask {
        BlockTask of(int plane, float[] buffer);
    }

    private void eachPlane(int index, int rank, PlaneTask task) {
        for (int p = 0; p < plan.signals().get(index).planes(); p++) {
            int plane = p;
            add(rank, slot -> task.of(plane, signals[slot][index][plane]));
        }
    }

    private int rankBehind(Signal signal) {
        int behind = 0;
        for (Signal.Edge edge : signal.inputs()) {
            if (needed.get(edge.from())) {
                behind = Math.max(behind, ranks[edge.from()] + 1);
            }
        }
        return behind;
    }

    private SumTask sumTask(int slot, float[] out, List<Signal.Edge> edges, int plane) {
        List<float[]> inputs = new ArrayList<>();
        List<Double> gains = new ArrayList<>();
        for (Signal.Edge edge : edges) {
            for (int from = 0; from < edge.gain().fromPlanes(); from++) {
                double gain = edge.gain().gain(plane, from);
                if (gain != 0) {
                    inputs.add(signals[slot][edge.from()][from]);
                    gains.add(gain);
                }
            }
        }
        double[] factors = gains.stream().mapToDouble(Double::doubleValue).toArray();
        return new SumTask(out, inputs.toArray(float[][]::new), factors);
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
            add(ranks[index] + 1, slot -> {
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
                ranks[index] + 1,
                (plane, buffer) -> (first, count) -> taps[plane].offer(scans[plane].loudest(buffer, 0, count)));
    }

    /** Has it shown by how many dB the insert behind a signal turns down. Call before the first block. */
    public void tapReduction(int index, PeakTap tap) {
        Effect effect = effects.get(plan.signals().get(index).id());
        if (effect != null) {
            add(ranks[index] + 1, slot -> (first, count) -> tap.offer((float) effect.reductionDb()));
        }
    }

    /** Has a signal heard while it runs, block after block. Call before the first block. */
    public void listen(int index, SignalListener listener) {
        add(ranks[index] + 1, slot -> {
            float[][] buffers = signals[slot][index];
            return (first, count) -> listener.hear(buffers, first, count);
        });
    }

    /** Has a signal's samples kept while it runs. Call before the first block. */
    public void keep(int index, KeptSignal kept) {
        eachPlane(
                index, ranks[index] + 1, (plane, buffer) -> (first, count) -> kept.write(plane, first, buffer, count));
    }

    private void add(int rank, Work work) {
        at(rank).add(work);
    }

    /** Long tasks first, so that no thread waits for one at the end. */
    private void addFirst(int rank, Work work) {
        at(rank).addFirst(work);
    }

    private List<Work> at(int rank) {
        if (sealed) {
            throw new IllegalStateException("run: already started (expected: listeners before the first block)");
        }
        while (building.size() <= rank) {
            building.add(new ArrayList<>());
        }
        return building.get(rank);
    }

    /**
     * Computes one block of every signal.
     *
     * @param first the block's first frame on the song's line, 0 or later
     * @param count its length, at most the largest block
     */
    public void process(long first, int count) {
        begin(first, first + count);
        byRank.first = first;
        byRank.frames = count;
        for (byRank.rank = 0; byRank.rank < tasks[0].length; byRank.rank++) {
            team.run(tasks[0][byRank.rank].length, byRank);
        }
    }

    /**
     * Computes a stretch of the song, which only listeners hear.
     *
     * @param from the stretch's first frame on the song's line, 0 or later
     * @param to the frame after its last one
     * @throws java.util.concurrent.CancellationException if the progress says stop
     */
    public void stretch(long from, long to, Progress progress) {
        if (slots == 1) {
            for (long at = from; at < to; at += maxFrames) {
                progress.check();
                process(at, (int) Math.min(maxFrames, to - at));
                progress.at((double) (at - from) / (to - from));
            }
            return;
        }
        begin(from, to);
        Pipeline pipeline = new Pipeline(tasks, from, to, maxFrames);
        while (pipeline.more()) {
            progress.check();
            team.run(pipeline.size(), pipeline);
            progress.at(pipeline.done());
            pipeline.advance();
        }
    }

    private void begin(long from, long to) {
        if (!sealed) {
            seal();
        }
        if (from != expected) {
            // What processors remember belongs to another place of the song.
            effects.values().forEach(Effect::reset);
            delays.values().forEach(lines -> Arrays.stream(lines).forEach(DelayLine::reset));
        }
        expected = to;
    }

    private void seal() {
        sealed = true;
        tasks = new BlockTask[slots][building.size()][];
        for (int s = 0; s < slots; s++) {
            int slot = s;
            for (int r = 0; r < building.size(); r++) {
                tasks[s][r] =
                        building.get(r).stream().map(work -> work.in(slot)).toArray(BlockTask[]::new);
            }
        }
    }

    /** The tasks of one rank of one block. */
    private final class ByRank implements Team.Job {
        private int rank;
        private long first;
        private int frames;

        @Override
        public void run(int task) {
            tasks[0][rank][task].run(first, frames);
        }
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
    }
}
