package waterwheel.core.engine;

import java.util.ArrayList;
import java.util.Arrays;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.function.Function;
import java.util.stream.IntStream;
import waterwheel.core.inserts.Insert;
import waterwheel.core.instruments.LiveKeys;
import waterwheel.core.instruments.Performer;
import waterwheel.core.path.GainMatrix;
import waterwheel.core.path.Motion;
import waterwheel.core.processing.DelayLine;
import waterwheel.core.processing.Effect;
import waterwheel.core.processing.Response;
import waterwheel.core.processing.Site;
import waterwheel.core.processing.SlotEffect;
import waterwheel.core.session.Listen;

/**
 * Makes the tasks that compute a plan's signals, several where planes are processed each by itself; with what a run must
 * reach in them later: what comes to other values, and what remembers.
 */
final class SignalTasks {
    /** What a task does to the buffers of one slot. */
    interface Work {
        BlockTask in(int slot);
    }

    /** Takes a task that has to do with a signal, or with some of its planes. */
    interface Adding {
        void add(int index, Work work);
    }

    /** Makes the task of a plane with its buffer. */
    interface PlaneTask {
        BlockTask of(int plane, float[] buffer);
    }

    /** How long values take to where they move. */
    private static final double MOVE_SECONDS = 0.02;

    private final Plan plan;
    private final Media media;
    private final int maxFrames;
    private final boolean moves;
    private final int moveFrames;
    private final PortBuffers ports;
    private final float[][][][] signals;
    private final Adding computing;
    /** What changes when the plan's values do: from a plan of the same shape to what has to be done. */
    private final List<Function<Plan, Runnable>> movers = new ArrayList<>();

    private final Map<SignalId, EffectParts> effects = new HashMap<>();
    private final Map<SignalId, DelayLine[]> delays = new HashMap<>();
    private final MemoryNotes notes = new MemoryNotes();

    /**
     * Makes a maker of tasks.
     *
     * @param maxFrames the largest block
     * @param moves whether the plan's values may change while it runs
     * @param signals where they compute: {@code signals[slot][signal][plane][frame]}
     */
    SignalTasks(
            Plan plan,
            Media media,
            int maxFrames,
            boolean moves,
            PortBuffers ports,
            float[][][][] signals,
            Adding computing) {
        this.plan = plan;
        this.media = media;
        this.maxFrames = maxFrames;
        this.moves = moves;
        this.ports = ports;
        this.signals = signals;
        this.computing = computing;
        moveFrames = Math.max(1, (int) Math.round(MOVE_SECONDS * plan.sampleRateHz()));
    }

    List<Function<Plan, Runnable>> movers() {
        return movers;
    }

    /** The processors, by the signal behind them. */
    Map<SignalId, EffectParts> effects() {
        return effects;
    }

    Map<SignalId, DelayLine[]> delays() {
        return delays;
    }

    /** What processors and delays remember on the way, where that is noted. */
    MemoryNotes notes() {
        return notes;
    }

    private void computes(int index, Work work) {
        computing.add(index, work);
    }

    /** Makes the tasks of a signal. */
    void prepare(int index) {
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
                computesPlanes(
                        index,
                        (plane, buffer) ->
                                (first, count) -> kept.samples().read(plane, first - kept.late(), buffer, count));
            case Signal.Sum sum ->
                computes(
                        index,
                        slot -> eachPlane(
                                slot,
                                index,
                                (plane, buffer) -> sumTask(slot, buffer, sum.inputs(), plane, newer -> newer.signals()
                                        .get(index)
                                        .inputs())));
            case Signal.Processed processed -> prepare(index, processed);
            case Signal.Returned returned ->
                computesPlanes(index, (plane, buffer) -> incomingTask(returned.returnPort() - 1 + plane, buffer));
            case Signal.Incoming incoming ->
                computesPlanes(index, (plane, buffer) -> incomingTask(incoming.port() - 1 + plane, buffer));
            case Signal.Listened listened -> computes(index, slot -> listenedTask(index, listened, slot));
            case Signal.Ridden ridden -> computes(index, slot -> riddenTask(index, ridden, slot));
            case Signal.Delayed late -> {
                DelayLine[] lines = new DelayLine[late.planes()];
                Arrays.setAll(lines, p -> new DelayLine(late.frames()));
                delays.put(late.id(), lines);
                notes.expect(index);
                computes(index, slot -> {
                    float[][] from = signals[slot][late.from()];
                    return eachPlane(slot, index, (plane, buffer) -> (first, count) -> {
                        if (notes.due(first)) {
                            noteLine(index, first, plane, lines);
                        }
                        lines[plane].process(from[plane], buffer, count);
                    });
                });
            }
        }
    }

    private void noteLine(int index, long frame, int plane, DelayLine[] lines) {
        if (notes.room(lines[plane].memoryBytes())) {
            notes.shared(index, frame, () -> Remembered.ofDelays(lines.length)).line(plane, lines[plane].copy());
        }
    }

    /** The sum of the input goes into the signal's own buffers, and is processed there. */
    private void prepare(int index, Signal.Processed processed) {
        Response response =
                processed.insert().processor().response().map(media::response).orElse(null);
        EffectParts parts = new EffectParts(
                processed,
                new Site(plan.sampleRateHz(), processed.planes(), maxFrames, response),
                plan.latencies().get(processed.input().from()));
        effects.put(processed.id(), parts);
        notes.expect(index);
        for (int i = 0; i < parts.count(); i++) {
            int part = i;
            if (moves) {
                movers.add(newer -> mover(
                        parts.effect(part), ((Signal.Processed) newer.signals().get(index)).insert()));
            }
            computes(index, slot -> processedTask(index, processed, parts, part, slot));
        }
    }

    private BlockTask processedTask(int index, Signal.Processed processed, EffectParts parts, int part, int slot) {
        float[][] buffers = parts.of(part, signals[slot][index]);
        float[][] key = processed.key().isPresent()
                ? parts.of(part, signals[slot][processed.key().getAsInt()])
                : null;
        BlockTask[] sums = new BlockTask[buffers.length];
        Arrays.setAll(
                sums,
                p -> sumTask(
                        slot,
                        buffers[p],
                        List.of(processed.input()),
                        part * parts.planes() + p,
                        newer -> List.of(((Signal.Processed) newer.signals().get(index)).input())));
        return (first, count) -> {
            if (notes.due(first)) {
                noteEffect(index, first, parts, part);
            }
            for (BlockTask sum : sums) {
                sum.run(first, count);
            }
            parts.start(part).process(first, buffers, key, count);
        };
    }

    private void noteEffect(int index, long frame, EffectParts parts, int part) {
        if (notes.room(parts.effect(part).memoryBytes())) {
            notes.shared(index, frame, () -> Remembered.ofEffect(parts.count())).effect(part, parts.copy(part));
        }
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
        GainMatrix gain = ridden.input().gain();
        boolean asItIs = !moves && gain.equals(GainMatrix.diagonal(gain.toPlanes(), 1));
        // A single plane must still be there for the right when the left is written.
        float[][] own = gain.toPlanes() == out.length ? out : new float[gain.toPlanes()][maxFrames];
        float[][] before = asItIs ? signals[slot][ridden.input().from()] : own;
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

    /** A task that does what there is to do for each plane of a signal. */
    BlockTask eachPlane(int slot, int index, PlaneTask task) {
        float[][] buffers = signals[slot][index];
        BlockTask[] planes = new BlockTask[buffers.length];
        Arrays.setAll(planes, p -> task.of(p, buffers[p]));
        return BlockTask.all(planes);
    }

    private void computesPlanes(int index, PlaneTask task) {
        computes(index, slot -> eachPlane(slot, index, task));
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
}
