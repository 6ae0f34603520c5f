package waterwheel.core.levels;

import java.util.ArrayList;
import java.util.BitSet;
import java.util.HashMap;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Objects;
import java.util.Optional;
import waterwheel.core.engine.Plan;
import waterwheel.core.engine.PlanCompiler;
import waterwheel.core.engine.PlanRun;
import waterwheel.core.engine.Signal;
import waterwheel.core.engine.SignalId;
import waterwheel.core.metering.LevelSeries;
import waterwheel.core.metering.Steps;
import waterwheel.core.session.Bus;
import waterwheel.core.session.ChannelId;
import waterwheel.core.session.Output;
import waterwheel.core.session.Session;
import waterwheel.core.work.Progress;

/** Looks for the peaks of a bus and for who fills them. */
final class PeakSearch {
    /** Peaks nearer to each other than this are one. */
    private static final double APART_SECONDS = 1;
    /** Of a sum that is as good as nothing no parts can be told. */
    private static final double LEAST_SUM = 1e-9;

    private final SongMeasure song;
    private final Session session;
    private final Plan plan;

    PeakSearch(SongMeasure song, Session session) {
        this.song = song;
        this.session = session;
        plan = PlanCompiler.compile(session);
    }

    /**
     * A bus's input at one frame.
     *
     * @param place of the frame in the run's block
     */
    private record Moment(Signal.Sum sum, PlanRun run, int place) {
        double value(int plane, Signal.Edge edge, int from) {
            return edge.gain().gain(plane, from) * run.signal(edge.from())[from][place];
        }
    }

    /**
     * What of the peak comes from a bus, by all ways together.
     *
     * @param most the largest part that comes by one way
     * @param plane the bus's side that it comes from
     */
    private record Filling(double part, double most, int plane) {
        Filling and(double more, int from) {
            return Math.abs(more) > most
                    ? new Filling(part + more, Math.abs(more), from)
                    : new Filling(part + more, most, plane);
        }
    }

    /** What one channel adds to a sum, and which of its sides adds the most. */
    private record Part(double value, double most, int plane) {
        Part and(double more, int from) {
            return Math.abs(more) > most
                    ? new Part(value + more, Math.abs(more), from)
                    : new Part(value + more, most, plane);
        }
    }

    Optional<PeakShares> find(ChannelId bus, int rank, Progress progress) {
        int index = plan.find(new SignalId(bus, SignalId.Point.INPUT));
        if (!(plan.signals().get(index) instanceof Signal.Sum sum)) {
            return Optional.empty();
        }
        BitSet wanted = new BitSet();
        wanted.set(index);
        LevelSeries series = Objects.requireNonNull(
                song.measure(plan, wanted, progress.part(0, 0.5)).get(index));
        List<Integer> steps = steps(series, rank + 1);
        if (steps.size() <= rank) {
            return Optional.empty();
        }
        int step = steps.get(rank);
        int plane = series.planes() == 2 && series.peak(1, step) > series.peak(0, step) ? 1 : 0;
        long first = Steps.firstFrame(step, plan.sampleRateHz());
        int count = (int) (Math.min(plan.lengthFrames(), Steps.firstFrame(step + 1L, plan.sampleRateHz())) - first);
        PlanRun run = song.frames(plan, index, first + plan.latencies().get(index), count, progress.part(0.5, 0.9));
        int place = loudest(run.signal(index)[plane], count);
        double peak = run.signal(index)[plane][place];
        long frame = first + place;
        return Optional.of(new PeakShares(
                bus,
                (double) frame / session.sampleRateHz(),
                peak,
                links(index, plane, frame, new Moment(sum, run, place), progress.part(0.9, 1))));
    }

    /** The steps with the highest peaks, each apart from those before; silent ones never. */
    private List<Integer> steps(LevelSeries series, int most) {
        double[] peaks = new double[series.steps()];
        for (int i = 0; i < peaks.length; i++) {
            for (int p = 0; p < series.planes(); p++) {
                peaks[i] = Math.max(peaks[i], series.peak(p, i));
            }
        }
        int apart = (int) Math.round(APART_SECONDS * Steps.PER_SECOND);
        List<Integer> found = new ArrayList<>();
        while (found.size() < most) {
            int highest = -1;
            for (int i = 0; i < peaks.length; i++) {
                if (peaks[i] > 0 && (highest < 0 || peaks[i] > peaks[highest])) {
                    highest = i;
                }
            }
            if (highest < 0) {
                break;
            }
            found.add(highest);
            for (int i = Math.max(0, highest - apart); i <= Math.min(peaks.length - 1, highest + apart); i++) {
                peaks[i] = 0;
            }
        }
        return found;
    }

    private static int loudest(float[] samples, int count) {
        int loudest = 0;
        for (int i = 1; i < count; i++) {
            if (Math.abs(samples[i]) > Math.abs(samples[loudest])) {
                loudest = i;
            }
        }
        return loudest;
    }

    private Map<ChannelId, Part> parts(Moment moment, int plane) {
        Map<ChannelId, Part> parts = new LinkedHashMap<>();
        for (Signal.Edge edge : KeyedPlan.openInputs(moment.sum())) {
            ChannelId from = plan.signals().get(edge.from()).id().channel();
            for (int p = 0; p < edge.gain().fromPlanes(); p++) {
                Part before = parts.getOrDefault(from, new Part(0, -1, 0));
                parts.put(from, before.and(moment.value(plane, edge, p), p));
            }
        }
        return parts;
    }

    /**
     * Every link that a bus's sample comes by. Signals stand after their inputs, so that walking back from the bus every
     * channel is met when all that it adds is known, by however many ways.
     *
     * @param there the bus's input at that frame
     */
    private List<PeakShares.Link> links(int bus, int plane, long frame, Moment there, Progress progress) {
        Map<ChannelId, Filling> filling = new HashMap<>();
        filling.put(plan.signals().get(bus).id().channel(), new Filling(1, 1, plane));
        List<PeakShares.Link> links = new ArrayList<>();
        for (int i = bus; i >= 0; i--) {
            SignalId id = plan.signals().get(i).id();
            Filling its = filling.get(id.channel());
            // What a return gives is made of what went in some time ago.
            boolean divided = i == bus || isFed(id.channel());
            if (its != null
                    && divided
                    && id.point() == SignalId.Point.INPUT
                    && plan.signals().get(i) instanceof Signal.Sum sum) {
                Moment moment = i == bus
                        ? there
                        : new Moment(
                                sum,
                                song.frames(plan, i, frame + plan.latencies().get(i), 1, progress),
                                0);
                int side = Math.min(its.plane(), sum.planes() - 1);
                double whole = moment.run().signal(i)[side][moment.place()];
                if (Math.abs(whole) >= LEAST_SUM) {
                    parts(moment, side).forEach((from, one) -> {
                        double part = its.part() * one.value() / whole;
                        links.add(new PeakShares.Link(from, id.channel(), part));
                        filling.put(
                                from,
                                filling.getOrDefault(from, new Filling(0, -1, 0))
                                        .and(part, one.plane()));
                    });
                }
            }
        }
        return links;
    }

    /** Whether a channel is a bus that others have as their output. */
    private boolean isFed(ChannelId id) {
        return session.channel(id) instanceof Bus
                && session.channels().stream()
                        .anyMatch(channel -> channel.strip().output().equals(Output.to(id))
                                || channel.strip().extraOutputs().contains(id));
    }
}
