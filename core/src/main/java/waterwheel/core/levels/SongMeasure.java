package waterwheel.core.levels;

import java.util.ArrayList;
import java.util.BitSet;
import java.util.Collections;
import java.util.HashMap;
import java.util.IdentityHashMap;
import java.util.Iterator;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Objects;
import java.util.Optional;
import java.util.Set;
import java.util.function.BooleanSupplier;
import org.jspecify.annotations.Nullable;
import waterwheel.core.engine.GainMatrix;
import waterwheel.core.engine.KeptSignal;
import waterwheel.core.engine.Media;
import waterwheel.core.engine.Plan;
import waterwheel.core.engine.PlanCompiler;
import waterwheel.core.engine.PlanRun;
import waterwheel.core.engine.Signal;
import waterwheel.core.engine.SignalId;
import waterwheel.core.engine.StageGains;
import waterwheel.core.engine.Team;
import waterwheel.core.metering.Detail;
import waterwheel.core.metering.Figures;
import waterwheel.core.metering.LevelSeries;
import waterwheel.core.session.ChannelId;
import waterwheel.core.session.Clip;
import waterwheel.core.session.Session;
import waterwheel.core.session.Track;
import waterwheel.core.work.Progress;

/**
 * Measures the signals of plans over the whole song and remembers what it measured. Samples of buses are kept too, so
 * that a change in one bus does not run the others' tracks again. One thread at a time.
 */
public final class SongMeasure implements AutoCloseable {
    private static final int SPARE_KEPT = 12;
    /** How many buses a change usually has computed again. */
    private static final int ROOMS_READY = 4;

    private static final int MOST_GAINED = 500;
    private static final int PEAK_BLOCK = 2_048;
    /** Series on the heap beyond this are forgotten, the ones least used first; those in the cache take no heap. */
    private static final long MOST_HEAP_BYTES = Runtime.getRuntime().maxMemory() / 8;

    private Media media;
    private final Team team;
    private final Detail mostDetail;
    private final Detail busDetail;
    private final MeasureCache cache;
    private final Map<SignalKey, LevelSeries> series = new LinkedHashMap<>(64, 0.75f, true);
    /** Levels that are mere gains on others: they share the others' memory. */
    private final Map<SignalKey, LevelSeries> gained = new LinkedHashMap<>(64, 0.75f, true) {
        private static final long serialVersionUID = 1L;

        @Override
        protected boolean removeEldestEntry(Map.Entry<SignalKey, LevelSeries> eldest) {
            return size() > MOST_GAINED;
        }
    };

    private long heapBytes;
    // Half of what the heap may take: kept samples lie outside it.
    private final KeptSignals kept = new KeptSignals(Runtime.getRuntime().maxMemory() / 2);

    /**
     * Makes a measurement that knows nothing yet.
     *
     * @param team does the work; not closed here
     * @param mostDetail what is gathered of tracks and of the mix
     * @param busDetail what is gathered of the buses in between
     * @param cache where measurements of files are kept
     */
    public SongMeasure(Media media, Team team, Detail mostDetail, Detail busDetail, MeasureCache cache) {
        this.cache = cache;
        this.media = media;
        this.team = team;
        this.mostDetail = mostDetail;
        this.busDetail = busDetail;
    }

    /** Goes on with other open files; what was measured of files that are the same stays known. */
    public void use(Media other) {
        media = other;
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

    /**
     * Measures a stretch of the song by itself; nothing of it is remembered.
     *
     * @param fromFrame the stretch's first frame
     * @param toFrame the frame after its last one, at most the song's length
     * @return by index in the plan
     * @throws java.util.concurrent.CancellationException if the progress says stop
     */
    public Map<Integer, LevelSeries> measure(
            Plan plan, BitSet wanted, long fromFrame, long toFrame, Progress progress) {
        List<SongPart> parts = parts(plan, wanted, fromFrame, toFrame);
        runParts(parts, wanted, Map.of(), progress);
        Map<Integer, LevelSeries> found = new HashMap<>();
        wanted.stream().forEach(i -> found.put(i, joined(parts, i).startingAt(fromFrame)));
        return found;
    }

    /**
     * Returns the figures of a session's mix, measuring what is not known.
     *
     * @throws java.util.concurrent.CancellationException if the progress says stop
     */
    public Figures mix(Session session, Progress progress) {
        Plan plan = PlanCompiler.compile(session);
        BitSet output = new BitSet();
        output.set(plan.output());
        return Figures.of(Objects.requireNonNull(measure(plan, output, progress).get(plan.output())));
    }

    /**
     * Returns the levels of one clip's stretch of its file, without the clip's gain, fades and curve.
     *
     * @throws java.util.concurrent.CancellationException if the progress says stop
     */
    public LevelSeries clip(Session session, Track track, Clip clip, Progress progress) {
        Clip alone = new Clip(clip.source(), 0, clip.offsetFrames(), clip.lengthFrames(), 0);
        SignalId id = new SignalId(track.id(), SignalId.Point.FILES);
        Plan plan = new Plan(
                session.sampleRateHz(),
                clip.lengthFrames(),
                List.of(new Signal.Source(id, track.planes(), List.of(alone))));
        BitSet only = new BitSet();
        only.set(0);
        return Objects.requireNonNull(measure(plan, only, progress).get(0));
    }

    /**
     * Returns the figures of what a track's trim would get in a session: its clips with their gains, fades and curves.
     *
     * @throws java.util.concurrent.CancellationException if the progress says stop
     */
    public Figures clips(Session session, Track track, Progress progress) {
        Plan plan = PlanCompiler.compile(session);
        int index = plan.first(track.id());
        BitSet source = new BitSet();
        source.set(index);
        LevelSeries series =
                Objects.requireNonNull(measure(plan, source, progress).get(index));
        return Figures.of(series.through(
                GainMatrix.diagonal(track.planes(), StageGains.clips(track)).toArray()));
    }

    /**
     * Returns who fills a bus's peak.
     *
     * @return empty for a silent bus
     * @throws java.util.concurrent.CancellationException if the progress says stop
     */
    public Optional<PeakShares> peakShares(Session session, ChannelId bus, Progress progress) {
        Plan plan = PlanCompiler.compile(session);
        int index = plan.find(new SignalId(bus, SignalId.Point.INPUT));
        BitSet wanted = new BitSet();
        wanted.set(index);
        LevelSeries series = Objects.requireNonNull(
                measure(plan, wanted, progress.part(0, 0.5)).get(index));
        int plane = series.peak(1) > series.peak(0) ? 1 : 0;
        long frame = series.peakFrame(plane);
        if (frame < 0 || !(plan.signals().get(index) instanceof Signal.Sum sum)) {
            return Optional.empty();
        }
        long engineFrame = frame + plan.latencies().get(index);
        PlanRun run = PlanRun.of(plan, media, team, PEAK_BLOCK, wanted);
        // Without memory the one frame can be computed alone.
        long at = plan.remembers(plan.reaching(wanted)) ? 0 : engineFrame;
        while (at + PEAK_BLOCK <= engineFrame) {
            progress.check();
            run.process(at, PEAK_BLOCK);
            at += PEAK_BLOCK;
            progress.at(0.5 + 0.5 * at / engineFrame);
        }
        run.process(at, (int) (engineFrame - at) + 1);
        int place = (int) (engineFrame - at);
        Map<ChannelId, Double> shares = new LinkedHashMap<>();
        for (Signal.Edge edge : openInputs(sum)) {
            double value = 0;
            for (int p = 0; p < edge.gain().fromPlanes(); p++) {
                value += edge.gain().gain(plane, p) * run.signal(edge.from())[p][place];
            }
            shares.merge(plan.signals().get(edge.from()).id().channel(), value, Double::sum);
        }
        return Optional.of(new PeakShares(
                bus,
                (double) frame / session.sampleRateHz(),
                run.signal(index)[plane][place],
                shares.entrySet().stream()
                        .map(e -> new PeakShares.Share(e.getKey(), e.getValue()))
                        .toList()));
    }

    /** Forgets kept samples that the plan does not have, but for the latest few. */
    public void keepOnly(Plan plan) {
        kept.keepOnly(SignalKey.of(plan, media), SPARE_KEPT);
    }

    /**
     * Makes room for what the next change will want kept, because fresh memory takes as long as a tenth of a
     * measurement.
     *
     * @param enough asked before each piece; true ends it
     */
    public void makeRoom(Plan plan, BooleanSupplier enough) {
        boolean made = false;
        while (!made && !enough.getAsBoolean()) {
            made = kept.reserve(2, plan.lengthFrames() + plan.mostLatency(), ROOMS_READY);
        }
    }

    private @Nullable LevelSeries derived(Keyed keyed, int index) {
        SignalKey key = keyed.keys().get(index);
        Signal signal = keyed.plan().signals().get(index);
        LevelSeries known = known(key, signal);
        if (known != null) {
            return known;
        }
        LevelSeries result = null;
        if (signal instanceof Signal.Delayed late) {
            // Every signal is measured over its own song, so a delay changes nothing.
            return derived(keyed, late.from());
        }
        if (signal instanceof Signal.Sum) {
            List<Signal.Edge> open = openInputs(signal);
            if (open.isEmpty()) {
                result = LevelSeries.silence(
                        keyed.plan().sampleRateHz(),
                        signal.planes(),
                        keyed.plan().lengthFrames());
            } else if (isGainOfOne(open)
                    && !wantsMore(keyed.plan(), index, open.getFirst().from())) {
                LevelSeries input = derived(keyed, open.getFirst().from());
                if (input != null) {
                    result = input.through(open.getFirst().gain().toArray());
                }
            }
        }
        if (result != null) {
            gained.put(key, result);
        }
        return result;
    }

    /** What is remembered, or lies in the cache. */
    private @Nullable LevelSeries known(SignalKey key, Signal signal) {
        LevelSeries known = series.get(key);
        if (known == null) {
            known = gained.get(key);
        }
        if (known == null && signal instanceof Signal.Source) {
            known = cache.series(key, mostDetail);
            if (known != null) {
                remember(key, known);
            }
        }
        return known;
    }

    private void remember(SignalKey key, LevelSeries one) {
        LevelSeries before = series.put(key, one);
        heapBytes += one.heapBytes() - (before == null ? 0 : before.heapBytes());
        for (Iterator<LevelSeries> eldest = series.values().iterator(); heapBytes > MOST_HEAP_BYTES; ) {
            LevelSeries forgotten = eldest.next();
            if (forgotten.heapBytes() > 0) {
                heapBytes -= forgotten.heapBytes();
                eldest.remove();
            }
        }
    }

    /** Adds the signals that must be measured for one to be known: itself, or what it is a gain of. */
    private void collectMissing(Keyed keyed, int index, BitSet missing) {
        if (derived(keyed, index) != null) {
            return;
        }
        Signal signal = keyed.plan().signals().get(index);
        List<Signal.Edge> open = openInputs(signal);
        boolean follows = signal instanceof Signal.Delayed
                || (signal instanceof Signal.Sum
                        && isGainOfOne(open)
                        && !wantsMore(keyed.plan(), index, open.getFirst().from()));
        if (follows) {
            collectMissing(keyed, open.getFirst().from(), missing);
        } else {
            missing.set(index);
        }
    }

    /** Whether more is gathered of a signal than of the one that it is a gain of, so that it must be measured itself. */
    private boolean wantsMore(Plan plan, int index, int from) {
        return detail(plan, from) != detail(plan, index) && detail(plan, from) == busDetail;
    }

    private static List<Signal.Edge> openInputs(Signal signal) {
        return signal.inputs().stream().filter(edge -> !edge.gain().silent()).toList();
    }

    private static boolean isGainOfOne(List<Signal.Edge> open) {
        return open.size() == 1 && !open.getFirst().gain().mixes();
    }

    private void run(Keyed keyed, BitSet missing, Progress progress) {
        Plan plan = withKept(keyed, missing);
        Set<KeptSignal> inUse = Collections.newSetFromMap(new IdentityHashMap<>());
        plan.signals().forEach(signal -> {
            if (signal instanceof Signal.Kept known) {
                inUse.add(known.samples());
            }
        });
        Map<Integer, KeptSignal> keeping = new HashMap<>();
        // What had to be computed again only for others to be measured is kept too, so that it was the last time.
        BitSet computed = plan.reaching(missing);
        computed.stream().filter(i -> worthKeeping(plan, i) && !isKept(plan, i)).forEach(i -> {
            KeptSignal room =
                    kept.room(plan.signals().get(i).planes(), plan.lengthFrames() + plan.mostLatency(), inUse);
            if (room != null) {
                keeping.put(i, room);
            }
        });
        List<SongPart> parts = parts(plan, missing, 0, plan.lengthFrames());
        boolean done = false;
        try {
            runParts(parts, missing, keeping, progress);
            done = true;
        } finally {
            if (!done) {
                keeping.values().forEach(kept::release);
            }
        }
        missing.stream().forEach(i -> {
            SignalKey key = keyed.keys().get(i);
            LevelSeries one = joined(parts, i);
            boolean ofFiles = keyed.plan().signals().get(i) instanceof Signal.Source;
            remember(key, ofFiles ? cache.keep(key, mostDetail, one) : one);
        });
        keeping.forEach((i, samples) -> kept.put(keyed.keys().get(i), samples));
    }

    /**
     * Each thread measures a stretch of the song by itself where nothing remembers what came before; processors do, and
     * then the threads share the signals instead.
     */
    private List<SongPart> parts(Plan plan, BitSet wanted, long from, long to) {
        return plan.remembers(plan.reaching(wanted))
                ? SongPart.whole(plan, from, to)
                : SongPart.divide(plan, from, to, team.threads());
    }

    private void runParts(List<SongPart> parts, BitSet wanted, Map<Integer, KeptSignal> keeping, Progress progress) {
        if (parts.size() == 1) {
            SongPart only = parts.getFirst();
            only.run(only.prepare(media, team, wanted, keeping, this::detail), progress);
            return;
        }
        List<PlanRun> runs = parts.stream()
                .map(part -> part.prepare(media, Team.alone(), wanted, keeping, this::detail))
                .toList();
        team.run(parts.size(), i -> parts.get(i).run(runs.get(i), i == 0 ? progress : new Unshown(progress)));
    }

    private static LevelSeries joined(List<SongPart> parts, int index) {
        return LevelSeries.joined(parts.stream().map(part -> part.series(index)).toList());
    }

    private Detail detail(Plan plan, int index) {
        boolean bus = plan.signals().get(index).id().point() == SignalId.Point.INPUT;
        return bus && worthKeeping(plan, index) ? busDetail : mostDetail;
    }

    /** A bus or the end of inserts that feeds another sum: whatever changes beside it there wants its samples again. */
    private static boolean worthKeeping(Plan plan, int index) {
        SignalId.Point point = plan.signals().get(index).id().point();
        return (point == SignalId.Point.INPUT || point == SignalId.Point.INSERT)
                && plan.signals().stream()
                        .anyMatch(other -> other instanceof Signal.Sum
                                && other.inputs().size() > 1
                                && other.inputs().stream().anyMatch(edge -> edge.from() == index));
    }

    private static boolean isKept(Plan plan, int index) {
        return plan.signals().get(index) instanceof Signal.Kept;
    }

    /** The plan with samples in hand in place of what would have to be computed again. */
    private Plan withKept(Keyed keyed, BitSet missing) {
        long length = keyed.plan().lengthFrames() + keyed.plan().mostLatency();
        List<Signal> signals = new ArrayList<>();
        for (int i = 0; i < keyed.keys().size(); i++) {
            Signal signal = keyed.plan().signals().get(i);
            KeptSignal samples = missing.get(i) ? null : kept.find(keyed.keys().get(i));
            boolean whole = samples != null && samples.frames() >= length;
            signals.add(samples == null || !whole ? signal : new Signal.Kept(signal.id(), signal.planes(), samples));
        }
        return keyed.plan().with(signals);
    }

    /** Progress of a part beside the one that is shown: it can be stopped, and shows nothing. */
    private record Unshown(Progress whole) implements Progress {
        @Override
        public void at(double part) {}

        @Override
        public boolean stopped() {
            return whole.stopped();
        }
    }

    @Override
    public void close() {
        kept.close();
    }
}
