package waterwheel.core.levels;

import java.util.ArrayList;
import java.util.BitSet;
import java.util.HashMap;
import java.util.HashSet;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Set;
import org.jspecify.annotations.Nullable;
import waterwheel.core.engine.KeptSignal;
import waterwheel.core.engine.Media;
import waterwheel.core.engine.Plan;
import waterwheel.core.engine.PlanRun;
import waterwheel.core.engine.Signal;
import waterwheel.core.engine.SignalId;
import waterwheel.core.engine.Team;
import waterwheel.core.metering.LevelSeries;
import waterwheel.core.metering.SeriesMeter;
import waterwheel.core.work.Progress;

/**
 * Measures the signals of plans over the whole song and remembers what it measured. Samples of buses are kept too, so
 * that a change in one bus does not run the others' tracks again. One thread at a time.
 */
public final class SongMeasure implements AutoCloseable {
    private static final int BLOCK = 4_096;
    private static final int MOST_SERIES = 2_000;

    private final Media media;
    private final Team team;
    private final Map<SignalKey, LevelSeries> series = new LinkedHashMap<>(64, 0.75f, true) {
        private static final long serialVersionUID = 1L;

        @Override
        protected boolean removeEldestEntry(Map.Entry<SignalKey, LevelSeries> eldest) {
            return size() > MOST_SERIES;
        }
    };
    private final Map<SignalKey, KeptSignal> kept = new HashMap<>();

    /** @param team does the work; not closed here */
    public SongMeasure(Media media, Team team) {
        this.media = media;
        this.team = team;
    }

    /** A plan with the keys of its signals. */
    private record Keyed(Plan plan, List<SignalKey> keys) {}

    /**
     * Returns the series of the wanted signals that are known or follow by gains from known ones, without measuring.
     *
     * @return by index in the plan; the others are absent
     */
    public Map<Integer, LevelSeries> known(Plan plan, BitSet wanted) {
        Keyed keyed = new Keyed(plan, SignalKey.of(plan, media));
        Map<Integer, LevelSeries> found = new HashMap<>();
        wanted.stream().forEach(i -> {
            LevelSeries one = derived(keyed, i);
            if (one != null) {
                found.put(i, one);
            }
        });
        return found;
    }

    /**
     * Returns the series of all wanted signals, measuring what is not known.
     *
     * @return by index in the plan
     * @throws java.util.concurrent.CancellationException if the progress says stop; what was known stays known
     */
    public Map<Integer, LevelSeries> measure(Plan plan, BitSet wanted, Progress progress) {
        Keyed keyed = new Keyed(plan, SignalKey.of(plan, media));
        BitSet missing = new BitSet();
        wanted.stream().forEach(i -> collectMissing(keyed, i, missing));
        if (!missing.isEmpty()) {
            run(keyed, missing, progress);
        }
        return known(plan, wanted);
    }

    /** Forgets the kept samples of signals that the plan no longer has. */
    public void keepOnly(Plan plan) {
        Set<SignalKey> present = new HashSet<>(SignalKey.of(plan, media));
        kept.entrySet().removeIf(entry -> {
            boolean gone = !present.contains(entry.getKey());
            if (gone) {
                entry.getValue().close();
            }
            return gone;
        });
    }

    private @Nullable LevelSeries derived(Keyed keyed, int index) {
        SignalKey key = keyed.keys().get(index);
        LevelSeries known = series.get(key);
        if (known != null) {
            return known;
        }
        LevelSeries result = null;
        Signal signal = keyed.plan().signals().get(index);
        if (signal instanceof Signal.Sum) {
            List<Signal.Edge> open = openInputs(signal);
            if (open.isEmpty()) {
                result = LevelSeries.silence(
                        keyed.plan().sampleRateHz(),
                        signal.planes(),
                        keyed.plan().lengthFrames());
            } else if (isGainOfOne(open)) {
                LevelSeries input = derived(keyed, open.getFirst().from());
                if (input != null) {
                    result = input.through(open.getFirst().gain().toArray());
                }
            }
        }
        if (result != null) {
            series.put(key, result);
        }
        return result;
    }

    /** Adds the signals that must be measured for one to be known: itself, or what it is a gain of. */
    private void collectMissing(Keyed keyed, int index, BitSet missing) {
        if (derived(keyed, index) != null) {
            return;
        }
        Signal signal = keyed.plan().signals().get(index);
        List<Signal.Edge> open = openInputs(signal);
        if (signal instanceof Signal.Sum && isGainOfOne(open)) {
            collectMissing(keyed, open.getFirst().from(), missing);
        } else {
            missing.set(index);
        }
    }

    private static List<Signal.Edge> openInputs(Signal signal) {
        return signal.inputs().stream().filter(edge -> !edge.gain().silent()).toList();
    }

    private static boolean isGainOfOne(List<Signal.Edge> open) {
        return open.size() == 1 && !open.getFirst().gain().mixes();
    }

    private void run(Keyed keyed, BitSet missing, Progress progress) {
        Plan plan = withKept(keyed, missing);
        PlanRun run = PlanRun.of(plan, media, team, BLOCK, missing);
        Map<Integer, SeriesMeter> meters = new LinkedHashMap<>();
        Map<Integer, KeptSignal> keeping = new HashMap<>();
        boolean done = false;
        try {
            missing.stream().forEach(i -> {
                Signal signal = plan.signals().get(i);
                SeriesMeter meter = new SeriesMeter(plan.sampleRateHz(), signal.planes(), plan.lengthFrames());
                meters.put(i, meter);
                run.meter(i, meter);
                if (signal.id().point() == SignalId.Point.INPUT) {
                    KeptSignal samples = new KeptSignal(signal.planes(), plan.lengthFrames());
                    keeping.put(i, samples);
                    run.keep(i, samples);
                }
            });
            for (long at = 0; at < plan.lengthFrames(); at += BLOCK) {
                progress.check();
                run.process(at, (int) Math.min(BLOCK, plan.lengthFrames() - at));
                progress.at((double) at / plan.lengthFrames());
            }
            meters.forEach((i, meter) -> series.put(keyed.keys().get(i), meter.finish()));
            keeping.forEach((i, samples) -> {
                KeptSignal earlier = kept.put(keyed.keys().get(i), samples);
                if (earlier != null) {
                    earlier.close();
                }
            });
            done = true;
        } finally {
            if (!done) {
                keeping.values().forEach(KeptSignal::close);
            }
        }
    }

    /** The plan with samples in hand in place of what would have to be computed again. */
    private Plan withKept(Keyed keyed, BitSet missing) {
        List<Signal> signals = new ArrayList<>();
        for (int i = 0; i < keyed.keys().size(); i++) {
            Signal signal = keyed.plan().signals().get(i);
            KeptSignal samples = missing.get(i) ? null : kept.get(keyed.keys().get(i));
            signals.add(samples == null ? signal : new Signal.Kept(signal.id(), signal.planes(), samples));
        }
        return keyed.plan().with(signals);
    }

    @Override
    public void close() {
        kept.values().forEach(KeptSignal::close);
        kept.clear();
    }
}
