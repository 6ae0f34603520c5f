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

/**
 * A plan in motion. Work is divided into tasks of one signal's plane each; signals of the same rank do not depend on
 * each other and are shared by the team. Construction allocates everything; {@link #process} allocates nothing.
 *
 * <p>One thread calls it; the signals may be read between calls.
 */
public final class PlanRun implements Team.Job {
    private final Plan plan;
    private final Team team;
    private final int maxFrames;
    private final float[][][] signals;
    private final int[] ranks;
    private final BitSet needed;
    private final List<List<BlockTask>> building = new ArrayList<>();
    private BlockTask[][] tasks = new BlockTask[0][];
    private boolean sealed;

    private final Map<SignalId, Effect> effects = new HashMap<>();
    private final Map<SignalId, DelayLine[]> delays = new HashMap<>();
    private long expected;
    private int rank;
    private long firstFrame;
    private int frames;

    private PlanRun(Plan plan, Media media, Team team, int maxFrames, BitSet wanted) {
        this.plan = plan;
        this.team = team;
        this.maxFrames = maxFrames;
        int count = plan.signals().size();
        signals = new float[count][][];
        ranks = new int[count];
        needed = plan.reaching(wanted);
        for (int i = 0; i < count; i++) {
            if (needed.get(i)) {
                prepare(i, media);
            }
        }
    }

    /**
     * Prepares a run that computes only what reaches the wanted signals through gains that are not 0.
     *
     * @param maxFrames the largest block
     * @param wanted indices of signals in the plan
     */
    public static PlanRun of(Plan plan, Media media, Team team, int maxFrames, BitSet wanted) {
        return new PlanRun(plan, media, team, maxFrames, wanted);
    }

    /** Prepares a run that computes every signal that is heard, for playback with its meters. */
    public static PlanRun ofAll(Plan plan, Media media, Team team, int maxFrames) {
        return new PlanRun(plan, media, team, maxFrames, plan.heard());
    }

    private void prepare(int index, Media media) {
        Signal signal = plan.signals().get(index);
        float[][] buffers = new float[signal.planes()][maxFrames];
        signals[index] = buffers;
        switch (signal) {
            case Signal.Source source -> {
                ClipReader reader = new ClipReader(source, media, maxFrames);
                add(0, (first, count) -> reader.read(first, buffers, count));
            }
            case Signal.Kept kept -> {
                for (int p = 0; p < signal.planes(); p++) {
                    int plane = p;
                    add(0, (first, count) -> kept.samples().read(plane, first, buffers[plane], count));
                }
            }
            case Signal.Sum sum -> {
                ranks[index] = rankBehind(sum);
                for (int p = 0; p < signal.planes(); p++) {
                    add(ranks[index], sumTask(buffers[p], sum.inputs(), p));
                }
            }
            case Signal.Processed processed -> prepare(index, processed, buffers);
            case Signal.Delayed late -> {
                ranks[index] = rankBehind(late);
                float[][] from = signals[late.from()];
                DelayLine[] lines = new DelayLine[late.planes()];
                for (int p = 0; p < lines.length; p++) {
                    DelayLine line = new DelayLine(late.frames(), maxFrames);
                    int plane = p;
                    lines[p] = line;
                    add(ranks[index], (first, count) -> line.process(from[plane], buffers[plane], count));
                }
                delays.put(late.id(), lines);
            }
        }
    }

    /** The sum of the input goes into the signal's own buffers, and is processed there. */
    private void prepare(int index, Signal.Processed processed, float[][] buffers) {
        int planes = processed.planes();
        Effect effect = Effects.start(processed.insert(), plan.sampleRateHz(), planes, maxFrames);
        effects.put(processed.id(), effect);
        ranks[index] = rankBehind(processed);
        float[][] key = processed.key().isPresent() ? signals[processed.key().getAsInt()] : null;
        SumTask[] sums = new SumTask[planes];
        for (int p = 0; p < planes; p++) {
            sums[p] = sumTask(buffers[p], List.of(processed.input()), p);
        }
        add(ranks[index], (first, count) -> {
            for (SumTask sum : sums) {
                sum.run(first, count);
            }
            effect.process(buffers, key, count);
        });
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

    private SumTask sumTask(float[] out, List<Signal.Edge> edges, int plane) {
        List<float[]> inputs = new ArrayList<>();
        List<Double> gains = new ArrayList<>();
        for (Signal.Edge edge : edges) {
            for (int from = 0; from < edge.gain().fromPlanes(); from++) {
                double gain = edge.gain().gain(plane, from);
                if (gain != 0) {
                    inputs.add(signals[edge.from()][from]);
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
            add(ranks[index] + 1, (first, count) -> {
                int skipped = Math.clamp(from + late - first, 0, count);
                int end = Math.clamp(to + late - first, 0, count);
                if (end > skipped) {
                    meter.process(part, signals[index], skipped, end - skipped);
                }
            });
        }
    }

    /** Has a signal's peaks shown while it runs, one tap a plane. Call before the first block. */
    public void tap(int index, PeakTap[] taps) {
        for (int p = 0; p < taps.length; p++) {
            float[] plane = signals[index][p];
            PeakTap tap = taps[p];
            PeakScan scan = new PeakScan();
            add(ranks[index] + 1, (first, count) -> tap.offer(scan.loudest(plane, 0, count)));
        }
    }

    /** Has a signal heard while it runs. Call before the first block. */
    public void listen(int index, SignalListener listener) {
        float[][] planes = signals[index];
        add(ranks[index] + 1, (first, count) -> listener.hear(planes, first, count));
    }

    /** Has a signal's samples kept while it runs. Call before the first block. */
    public void keep(int index, KeptSignal kept) {
        for (int p = 0; p < signals[index].length; p++) {
            int plane = p;
            add(ranks[index] + 1, (first, count) -> kept.write(plane, first, signals[index][plane], count));
        }
    }

    /**
     * Has work done by the team while it reads each block's sources, such as writing the block before. Call before the
     * first block.
     */
    public void alongside(Runnable work) {
        rank(0).addFirst((first, count) -> work.run());
    }

    private void add(int atRank, BlockTask task) {
        rank(atRank).add(task);
    }

    private List<BlockTask> rank(int wanted) {
        if (sealed) {
            throw new IllegalStateException("run: already started (expected: listeners before the first block)");
        }
        while (building.size() <= wanted) {
            building.add(new ArrayList<>());
        }
        return building.get(wanted);
    }

    /**
     * Computes one block of every signal.
     *
     * @param first the block's first frame on the song's line, 0 or later
     * @param count its length, at most the largest block
     */
    public void process(long first, int count) {
        if (!sealed) {
            seal();
        }
        if (first != expected) {
            // What processors remember belongs to another place of the song.
            effects.values().forEach(Effect::reset);
            delays.values().forEach(lines -> Arrays.stream(lines).forEach(DelayLine::reset));
        }
        expected = first + count;
        firstFrame = first;
        frames = count;
        for (rank = 0; rank < tasks.length; rank++) {
            team.run(tasks[rank].length, this);
        }
    }

    private void seal() {
        sealed = true;
        tasks = building.stream().map(list -> list.toArray(BlockTask[]::new)).toArray(BlockTask[][]::new);
    }

    @Override
    public void run(int task) {
        tasks[rank][task].run(firstFrame, frames);
    }

    /**
     * The samples of the last block, {@code [plane][0 .. count)}; the run's own arrays.
     *
     * @throws IllegalArgumentException if the signal is not computed by this run
     */
    public float[][] signal(int index) {
        if (signals[index] == null) {
            throw new IllegalArgumentException("index: " + index + " (expected: a signal that was wanted)");
        }
        return signals[index];
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
