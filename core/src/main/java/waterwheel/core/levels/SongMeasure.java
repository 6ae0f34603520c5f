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
import java.util.function.BiFunction;
import java.util.function.BooleanSupplier;
import org.jspecify.annotations.Nullable;
import waterwheel.core.engine.KeptSignal;
import waterwheel.core.engine.Media;
import waterwheel.core.engine.Plan;
import waterwheel.core.engine.PlanCompiler;
import waterwheel.core.engine.PlanRun;
import waterwheel.core.engine.Signal;
import waterwheel.core.engine.SignalId;
import waterwheel.core.engine.SignalKey;
import waterwheel.core.engine.SignalListener;
import waterwheel.core.metering.Detail;
import waterwheel.core.metering.Figures;
import waterwheel.core.metering.LevelSeries;
import waterwheel.core.metering.SeriesFile;
import waterwheel.core.metering.Steps;
import waterwheel.core.path.ChannelPaths;
import waterwheel.core.path.GainMatrix;
import waterwheel.core.path.Stage;
import waterwheel.core.session.ChannelId;
import waterwheel.core.session.Clip;
import waterwheel.core.session.Session;
import waterwheel.core.session.Track;
import waterwheel.core.work.JointProgress;
import waterwheel.core.work.Progress;
import waterwheel.core.work.Team;

/**
 * Measures the signals of plans over the whole song and remembers what it measured. Samples of buses are kept too, so
 * that a change in one bus does not run the others' tracks again. One thread at a time.
 */
public final class SongMeasure implements AutoCloseable {
    private static final int SPARE_KEPT = 12;
    /** How many buses a change usually has computed again. */
    private static final int ROOMS_READY = 4;

    /** What a step of 10 ms of one plane takes while it is measured: in parts, and then in one. */
    private static final int BYTES_A_STEP = 48;
    /** Measuring may take as many times what is remembered on the heap: half of the heap. */
    private static final int MEASURING_SHARES = 4;
    /** A series that takes more than this part of what is remembered goes to a temporary file. */
    private static final int LONG_PART = 16;

    private static final int BLOCK = 2_048;
    /** How many signals that are asked for by themselves are measured in one run: each may have processors of its own. */
    private static final int ASKED_AT_ONCE = 64;

    private Media media;
    private final Team team;
    private final Detail mostDetail;
    private final Detail busDetail;
    private final MeasureCache cache;
    private final Map<SignalKey, LevelSeries> series = new LinkedHashMap<>(64, 0.75f, true);
    /** Twice what the largest session so far has: that before a change and that after it. */
    private int mostGained = 500;
    /** Levels that are mere gains on others: they share the others' memory. */
    private final Map<SignalKey, LevelSeries> gained = new LinkedHashMap<>(64, 0.75f, true) {
        private static final long serialVersionUID = 1L;

        @Override
        protected boolean removeEldestEntry(Map.Entry<SignalKey, LevelSeries> eldest) {
            return size() > mostGained;
        }
    };

    /** Series on the heap beyond this are forgotten, the ones least used first; those in the cache take no heap. */
    private final long mostHeapBytes;

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
        this(media, team, mostDetail, busDetail, cache, Runtime.getRuntime().maxMemory() / 8);
    }

    /** @param mostHeapBytes how much of what was measured is remembered on the heap */
    SongMeasure(Media media, Team team, Detail mostDetail, Detail busDetail, MeasureCache cache, long mostHeapBytes) {
        this.mostHeapBytes = mostHeapBytes;
        this.cache = cache;
        this.media = media;
        this.team = team;
        this.mostDetail = mostDetail;
        this.busDetail = busDetail;
    }

    /** The files that are measured. */
    public Media media() {
        return media;
    }

    /** Whether all files of a track can be played. */
    public boolean plays(Track track) {
        return track.clips().stream().allMatch(clip -> media.problem(clip.source()) == null);
    }

    /** Goes on with other open files; what was measured of files that are the same stays known. */
    public void use(Media other) {
        media = other;
    }

    private KeyedPlan keyed(Plan plan) {
        mostGained = Math.max(mostGained, 2 * plan.signals().size());
        return KeyedPlan.of(plan, media, mostDetail, busDetail);
    }

    /**
     * Returns the series of the wanted signals that are known or follow by gains from known ones, without measuring.
     *
     * @return by index in the plan; the others are absent
     */
    public Map<Integer, LevelSeries> known(Plan plan, BitSet wanted) {
        return known(keyed(plan), wanted, Map.of());
    }

    private Map<Integer, LevelSeries> known(KeyedPlan keyed, BitSet wanted, Map<Integer, LevelSeries> fresh) {
        Map<Integer, LevelSeries> derived = derived(keyed, wanted, fresh);
        derived.keySet().removeIf(i -> !wanted.get(i));
        return derived;
    }

    /**
     * Returns the series of all wanted signals, measuring what is not known.
     *
     * @return by index in the plan
     * @throws java.util.concurrent.CancellationException if the progress says stop; what was known stays known
     */
    public Map<Integer, LevelSeries> measure(Plan plan, BitSet wanted, Progress progress) {
        KeyedPlan keyed = keyed(plan);
        Map<Integer, LevelSeries> derived = derived(keyed, wanted, Map.of());
        BitSet missing = new BitSet();
        wanted.stream().filter(i -> !derived.containsKey(i)).forEach(i -> missing.set(origin(keyed, i, derived)));
        if (missing.isEmpty()) {
            derived.keySet().removeIf(i -> !wanted.get(i));
            return derived;
        }
        return known(keyed, wanted, run(keyed, missing, progress));
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
        return measure(keyed(plan), wanted, fromFrame, toFrame, progress);
    }

    private Map<Integer, LevelSeries> measure(
            KeyedPlan keyed, BitSet wanted, long fromFrame, long toFrame, Progress progress) {
        List<SongPart> parts = parts(withKept(keyed, wanted), wanted, fromFrame, toFrame);
        runParts(parts, wanted, wanted, Map.of(), keyed, progress);
        Map<Integer, LevelSeries> found = new HashMap<>();
        wanted.stream().forEach(i -> found.put(i, joined(parts, i).startingAt(fromFrame)));
        return found;
    }

    /**
     * Measures signals that are asked for by themselves, as stems are, over the song or a stretch of it, all in one run.
     * No samples are kept to go on from; what was measured is known the next time the session is open.
     *
     * @param plan of signals that can be computed from the session
     * @param fromFrame the stretch's first frame
     * @param toFrame the frame after its last one, at most the song's length
     * @return by index in the plan
     * @throws java.util.concurrent.CancellationException if the progress says stop
     */
    public Map<Integer, LevelSeries> measureAsked(
            Plan plan, BitSet wanted, long fromFrame, long toFrame, Progress progress) {
        KeyedPlan keyed = keyed(plan);
        boolean whole = fromFrame == 0 && toFrame == plan.lengthFrames();
        Map<Integer, LevelSeries> found =
                whole ? known(keyed, wanted, Map.of()) : knownStretch(keyed, wanted, fromFrame, toFrame);
        BitSet missing = new BitSet();
        wanted.stream().filter(i -> !found.containsKey(i)).forEach(missing::set);
        found.putAll(inGroups(keyed, missing, ASKED_AT_ONCE, progress, (group, part) -> {
            Map<Integer, LevelSeries> fresh = measure(keyed, group, fromFrame, toFrame, part);
            fresh.replaceAll((index, one) -> cache.keepAsked(asked(keyed, index, fromFrame, toFrame), one));
            return fresh;
        }));
        if (!missing.isEmpty()) {
            cache.removeOldest();
        }
        return found;
    }

    private Map<Integer, LevelSeries> knownStretch(KeyedPlan keyed, BitSet wanted, long fromFrame, long toFrame) {
        Map<Integer, LevelSeries> found = new HashMap<>();
        wanted.stream().forEach(i -> {
            LevelSeries one = cache.asked(asked(keyed, i, fromFrame, toFrame));
            if (one != null) {
                found.put(i, one);
            }
        });
        return found;
    }

    private static String asked(KeyedPlan keyed, int index) {
        return asked(keyed, index, 0, keyed.plan().lengthFrames());
    }

    private static String asked(KeyedPlan keyed, int index, long fromFrame, long toFrame) {
        return keyed.key(index).hex() + "-" + fromFrame + "-" + toFrame + "-" + keyed.detail(index);
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
        Clip alone = new Clip(clip.source(), 0, clip.offsetFrames(), clip.lengthFrames(), 0).withSide(clip.side());
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
                GainMatrix.diagonal(track.planes(), ChannelPaths.clips(track)).toArray()));
    }

    /**
     * Returns the series at a stage of a channel, measuring what is not known.
     *
     * @throws IllegalArgumentException if the channel has no such stage
     * @throws java.util.concurrent.CancellationException if the progress says stop
     */
    public LevelSeries at(Session session, ChannelId channel, Stage stage, Progress progress) {
        return at(session, channel, stage, "", progress);
    }

    /**
     * Returns the series at a stage of a channel, measuring what is not known.
     *
     * @param part which of several: an insert's slot; empty for the stages that there is one of
     * @throws IllegalArgumentException if the channel has no such stage
     * @throws java.util.concurrent.CancellationException if the progress says stop
     */
    public LevelSeries at(Session session, ChannelId channel, Stage stage, String part, Progress progress) {
        Plan plan = PlanCompiler.compile(session);
        Signal.Edge edge = plan.stage(channel, stage, part)
                .orElseThrow(() -> new IllegalArgumentException(
                        "stage: " + stage + " of '" + channel + "' (expected: one that it has)"))
                .edge();
        BitSet wanted = new BitSet();
        wanted.set(edge.from());
        return Objects.requireNonNull(measure(plan, wanted, progress).get(edge.from()))
                .through(edge.gain().toArray());
    }

    /**
     * Has a listener hear what a stage of a channel carries over the whole song, in order; without the constant gains that
     * follow each other there.
     *
     * @throws java.util.concurrent.CancellationException if the progress says stop
     */
    public void hear(Session session, ChannelId channel, Stage stage, SignalListener listener, Progress progress) {
        Plan plan = PlanCompiler.compile(session);
        BitSet wanted = new BitSet();
        wanted.set(plan.stage(channel, stage, "").orElseThrow().edge().from());
        PlanRun run = PlanRun.ofStretch(withKept(keyed(plan), wanted), media, team, BLOCK, wanted);
        run.listen(wanted.nextSetBit(0), listener);
        run.stretch(0, plan.lengthFrames() + plan.latencies().get(wanted.nextSetBit(0)), progress);
    }

    /**
     * Returns who fills one of a bus's peaks.
     *
     * @param rank 0 for the highest peak, 1 for the next one apart from it, and so on
     * @return empty where there is no such peak
     * @throws java.util.concurrent.CancellationException if the progress says stop
     */
    public Optional<PeakShares> peakShares(Session session, ChannelId bus, int rank, Progress progress) {
        return new PeakSearch(this, session).find(bus, rank, progress);
    }

    /**
     * Computes a few frames of one signal, and what they are made of, with as little of the song before as they need.
     * Samples in hand need not be computed again, and without memory the frames can be computed alone.
     *
     * @param engineFrame the first of them, with the signal's latency
     * @return the run, whose block is these frames
     */
    PlanRun frames(Plan plan, int signal, long engineFrame, int count, Progress progress) {
        BitSet wanted = new BitSet();
        wanted.set(signal);
        Plan quick = withKept(keyed(plan), wanted);
        PlanRun run = PlanRun.of(quick, media, team, BLOCK, wanted);
        long at = Math.max(0, engineFrame - quick.memoryFrames(quick.reaching(wanted)));
        while (at < engineFrame) {
            progress.check();
            int frames = (int) Math.min(BLOCK, engineFrame - at);
            run.process(at, frames);
            at += frames;
            progress.at((double) at / engineFrame);
        }
        run.process(engineFrame, count);
        return run;
    }

    /**
     * Has what was measured of a plan known the next time that the session is open.
     *
     * @param enough asked before each series; true ends it
     */
    public void keepMeasured(Plan plan, BooleanSupplier enough) {
        KeyedPlan keyed = keyed(plan);
        boolean wrote = false;
        for (int i = 0; i < plan.signals().size() && !enough.getAsBoolean(); i++) {
            LevelSeries one = series.get(keyed.key(i));
            boolean ofFiles = keyed.signal(i) instanceof Signal.Source;
            if (one != null && one.frames() == plan.lengthFrames() && !ofFiles && !cache.holds(asked(keyed, i))) {
                cache.keepAsked(asked(keyed, i), one);
                wrote = true;
            }
        }
        if (wrote) {
            cache.removeOldest();
        }
    }

    /**
     * Computes the samples of buses that the next change goes on from, where nothing had to be measured because all
     * levels were known.
     *
     * @throws java.util.concurrent.CancellationException if the progress says stop; a change then computes what it needs
     */
    public void keepSamples(Plan plan, Progress progress) {
        KeyedPlan keyed = keyed(plan);
        runGroup(keyed, keyed.worthKeeping(), new BitSet(), progress);
    }

    /** Forgets kept samples that the plan does not have, but for the latest few. */
    public void keepOnly(Plan plan) {
        kept.keepOnly(SignalKey.of(plan, media), SPARE_KEPT);
    }

    /** Forgets all kept samples, for a test of what happens without. */
    void forgetSamples() {
        kept.keepOnly(List.of(), 0);
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

    /**
     * The series of some signals, and of those that they follow from, as far as they are known. Signals stand after their
     * inputs, so that each is looked at once.
     *
     * @param fresh what was just measured: that may be more than what there is room to remember
     */
    private Map<Integer, LevelSeries> derived(KeyedPlan keyed, BitSet wanted, Map<Integer, LevelSeries> fresh) {
        BitSet asked = new BitSet();
        Map<Integer, LevelSeries> found = new HashMap<>();
        for (int i = wanted.length() - 1; i >= 0; i--) {
            if (!wanted.get(i) && !asked.get(i)) {
                continue;
            }
            Signal signal = keyed.signal(i);
            LevelSeries known = fresh.containsKey(i) ? fresh.get(i) : known(keyed, i);
            if (known == null
                    && signal instanceof Signal.Sum
                    && KeyedPlan.openInputs(signal).isEmpty()) {
                known = LevelSeries.silence(
                        keyed.plan().sampleRateHz(),
                        signal.planes(),
                        keyed.plan().lengthFrames());
                gained.put(keyed.key(i), known);
            }
            if (known != null) {
                found.put(i, known);
            } else {
                asked.set(i);
                int from = keyed.follows().get(i);
                if (from != KeyedPlan.NONE) {
                    asked.set(from);
                }
            }
        }
        asked.stream().forEach(i -> {
            LevelSeries from = found.get(keyed.follows().get(i));
            if (from != null && !found.containsKey(i)) {
                Signal signal = keyed.signal(i);
                // Every signal is measured over its own song, so a delay changes nothing.
                LevelSeries one = signal instanceof Signal.Delayed
                        ? from
                        : from.through(
                                KeyedPlan.openInputs(signal).getFirst().gain().toArray());
                found.put(i, one);
                gained.put(keyed.key(i), one);
            }
        });
        return found;
    }

    /** The signal that must be measured for one to be known: itself, or what it follows from. */
    private static int origin(KeyedPlan keyed, int index, Map<Integer, LevelSeries> derived) {
        int at = index;
        while (keyed.follows().get(at) != KeyedPlan.NONE
                && !derived.containsKey(keyed.follows().get(at))) {
            at = keyed.follows().get(at);
        }
        return at;
    }

    /** What is remembered, or lies in the cache. */
    private @Nullable LevelSeries known(KeyedPlan keyed, int index) {
        SignalKey key = keyed.key(index);
        LevelSeries measured = series.get(key);
        LevelSeries known = keyed.fitting(index, measured);
        if (known == null) {
            known = keyed.fitting(index, gained.get(key));
        }
        if (known == null) {
            measured = keyed.signal(index) instanceof Signal.Source
                    ? cache.series(key, mostDetail)
                    : cache.asked(asked(keyed, index));
            known = keyed.fitting(index, measured);
        }
        if (known != null && measured != null && known != series.get(key)) {
            remember(key, known);
        }
        return known;
    }

    private void remember(SignalKey key, LevelSeries one) {
        LevelSeries before = series.put(key, one);
        heapBytes += one.heapBytes() - (before == null ? 0 : before.heapBytes());
        for (Iterator<LevelSeries> eldest = series.values().iterator();
                heapBytes > mostHeapBytes && eldest.hasNext(); ) {
            LevelSeries forgotten = eldest.next();
            if (forgotten.heapBytes() > 0) {
                heapBytes -= forgotten.heapBytes();
                eldest.remove();
            }
        }
    }

    private Map<Integer, LevelSeries> run(KeyedPlan keyed, BitSet missing, Progress progress) {
        return inGroups(
                keyed, missing, Integer.MAX_VALUE, progress, (group, part) -> runGroup(keyed, group, group, part));
    }

    /** Measures signals group by group. */
    private Map<Integer, LevelSeries> inGroups(
            KeyedPlan keyed,
            BitSet missing,
            int most,
            Progress progress,
            BiFunction<BitSet, Progress, Map<Integer, LevelSeries>> measuring) {
        List<BitSet> groups = groups(keyed, missing, most);
        Map<Integer, LevelSeries> fresh = new HashMap<>();
        for (int i = 0; i < groups.size(); i++) {
            Progress part = progress.part((double) i / groups.size(), (i + 1.0) / groups.size());
            fresh.putAll(measuring.apply(groups.get(i), part));
        }
        return fresh;
    }

    /** As many signals at a time as there is memory for: of a song of hours not all. */
    private List<BitSet> groups(KeyedPlan keyed, BitSet missing, int most) {
        List<BitSet> groups = new ArrayList<>();
        long bytes = 0;
        for (int i = missing.nextSetBit(0); i >= 0; i = missing.nextSetBit(i + 1)) {
            long steps = Steps.count(keyed.plan().lengthFrames(), keyed.plan().sampleRateHz());
            long wanted = steps * keyed.signal(i).planes() * BYTES_A_STEP;
            boolean full = groups.isEmpty()
                    || groups.getLast().cardinality() >= most
                    || bytes + wanted > mostHeapBytes * MEASURING_SHARES;
            if (full) {
                groups.add(new BitSet());
                bytes = 0;
            }
            groups.getLast().set(i);
            bytes += wanted;
        }
        return groups;
    }

    /**
     * @param wanted what is computed
     * @param missing what is measured of it
     */
    private Map<Integer, LevelSeries> runGroup(KeyedPlan keyed, BitSet wanted, BitSet missing, Progress progress) {
        Plan plan = withKept(keyed, missing);
        Set<KeptSignal> inUse = Collections.newSetFromMap(new IdentityHashMap<>());
        plan.signals().forEach(signal -> {
            if (signal instanceof Signal.Kept known) {
                inUse.add(known.samples());
            }
        });
        Map<Integer, KeptSignal> keeping = new HashMap<>();
        // What had to be computed again only for others to be measured is kept too, so that it was the last time.
        BitSet computed = plan.reaching(wanted);
        computed.stream()
                .filter(i -> keyed.worthKeeping().get(i) && !isKept(plan, i))
                .forEach(i -> {
                    KeptSignal room =
                            kept.room(plan.signals().get(i).planes(), plan.lengthFrames() + plan.mostLatency(), inUse);
                    if (room != null) {
                        keeping.put(i, room);
                    }
                });
        List<SongPart> parts = parts(plan, wanted, 0, plan.lengthFrames());
        boolean done = false;
        try {
            runParts(parts, wanted, missing, keeping, keyed, progress);
            done = true;
        } finally {
            if (!done) {
                keeping.values().forEach(kept::release);
            }
        }
        Map<Integer, LevelSeries> fresh = new HashMap<>();
        missing.stream().forEach(i -> {
            SignalKey key = keyed.key(i);
            LevelSeries one = joined(parts, i);
            boolean ofFiles = keyed.signal(i) instanceof Signal.Source;
            LevelSeries lasting = ofFiles ? cache.keep(key, mostDetail, one) : one;
            fresh.put(i, lasting.heapBytes() > mostHeapBytes / LONG_PART ? SeriesFile.offHeap(lasting) : lasting);
            remember(key, fresh.get(i));
        });
        keeping.forEach((i, samples) -> kept.put(keyed.key(i), samples));
        return fresh;
    }

    /**
     * Threads measure stretches of the song each by itself where nothing remembers what came before; processors do, and
     * then the threads share the signals instead.
     */
    private List<SongPart> parts(Plan plan, BitSet wanted, long from, long to) {
        return plan.remembers(plan.reaching(wanted)) ? SongPart.whole(plan, from, to) : SongPart.divide(plan, from, to);
    }

    private void runParts(
            List<SongPart> parts,
            BitSet wanted,
            BitSet missing,
            Map<Integer, KeptSignal> keeping,
            KeyedPlan keyed,
            Progress progress) {
        if (parts.size() == 1) {
            SongPart only = parts.getFirst();
            only.run(only.prepare(media, team, wanted, missing, keeping, keyed::detail), progress);
            return;
        }
        List<PlanRun> runs = parts.stream()
                .map(part -> part.prepare(media, Team.alone(), wanted, missing, keeping, keyed::detail))
                .toList();
        JointProgress joint = new JointProgress(progress, parts.size());
        team.run(parts.size(), i -> parts.get(i).run(runs.get(i), joint.part(i)));
    }

    private static LevelSeries joined(List<SongPart> parts, int index) {
        return LevelSeries.joined(parts.stream().map(part -> part.series(index)).toList());
    }

    private static boolean isKept(Plan plan, int index) {
        return plan.signals().get(index) instanceof Signal.Kept;
    }

    /** The plan with samples in hand in place of what would have to be computed again. */
    private Plan withKept(KeyedPlan keyed, BitSet missing) {
        return keyed.plan().withKept(i -> missing.get(i) ? null : kept.find(keyed.key(i)));
    }

    @Override
    public void close() {
        kept.close();
    }
}
