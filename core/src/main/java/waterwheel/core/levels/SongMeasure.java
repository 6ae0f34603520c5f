package waterwheel.core.levels;

import java.util.BitSet;
import java.util.HashSet;
import java.util.List;
import java.util.Map;
import java.util.Objects;
import java.util.Optional;
import java.util.Set;
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
import waterwheel.core.path.ChannelPaths;
import waterwheel.core.path.GainMatrix;
import waterwheel.core.path.Stage;
import waterwheel.core.session.ChannelId;
import waterwheel.core.session.Clip;
import waterwheel.core.session.Session;
import waterwheel.core.session.Track;
import waterwheel.core.work.Progress;
import waterwheel.core.work.Team;

/**
 * Measures the signals of plans over the whole song and remembers what it measured. Samples of buses are kept too, so
 * that a change in one bus does not run the others' tracks again. One thread at a time.
 */
public final class SongMeasure implements AutoCloseable {
    /** Measuring may take as many times what is remembered on the heap: half of the heap. */
    private static final int MEASURING_SHARES = 4;

    /** What is noted along the song may take this part of the heap. */
    private static final int MILESTONE_SHARES = 16;

    /** How many signals that are asked for by themselves are measured in one run: each may have processors of its own. */
    private static final int ASKED_AT_ONCE = 64;

    private Media media;
    private final Team team;
    private final Detail mostDetail;
    private final Detail leastDetail;
    private final KnownSeries known;
    /** How much of what was measured is remembered on the heap. */
    private final long mostHeapBytes;
    // Half of what the heap may take: kept samples lie outside it.
    private final KeptSignals kept = new KeptSignals(Runtime.getRuntime().maxMemory() / 2);
    private final Milestones milestones;
    /** What is noted along the song may take, and what measures it while nobody waits. */
    private final long mostNoteBytes;

    /** What of the present plan was measured in parts, which note nothing along the song. */
    private final Set<SignalKey> unnoted = new HashSet<>();

    private @Nullable KeyedPlan latest;
    private long begunAt;

    /**
     * Makes a measurement that knows nothing yet.
     *
     * @param team does the work; not closed here
     * @param mostDetail what is gathered of files, of the mix, on both sides of inserts, and of what is asked for
     * @param leastDetail what is gathered of the rest
     * @param cache where measurements of files are kept
     */
    public SongMeasure(Media media, Team team, Detail mostDetail, Detail leastDetail, MeasureCache cache) {
        this(
                media,
                team,
                mostDetail,
                leastDetail,
                cache,
                Runtime.getRuntime().maxMemory() / 8,
                Runtime.getRuntime().maxMemory() / MILESTONE_SHARES);
    }

    /**
     * One that gathers what the window shows: peaks and averages, and loudness of files, of the mix, and on both sides of
     * inserts where it compares. More would only make every change wait.
     */
    public static SongMeasure asShown(Media media, Team team, MeasureCache cache) {
        return new SongMeasure(media, team, Detail.LOUDNESS, Detail.LEVELS, cache);
    }

    /**
     * @param mostHeapBytes how much of what was measured is remembered on the heap
     * @param mostNoteBytes what is noted along the song may take
     */
    SongMeasure(
            Media media,
            Team team,
            Detail mostDetail,
            Detail leastDetail,
            MeasureCache cache,
            long mostHeapBytes,
            long mostNoteBytes) {
        this.mostHeapBytes = mostHeapBytes;
        known = new KnownSeries(cache, mostDetail, mostHeapBytes);
        milestones = new Milestones(known, mostNoteBytes);
        this.mostNoteBytes = mostNoteBytes;
        this.media = media;
        this.team = team;
        this.mostDetail = mostDetail;
        this.leastDetail = leastDetail;
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
        latest = null;
        milestones.beginAnew();
    }

    /** A plan is asked for several times in a row, and its keys are hashes of everything in it. */
    private KeyedPlan keyed(Plan plan) {
        KeyedPlan keyed = latest;
        if (keyed == null || !keyed.plan().equals(plan)) {
            known.expect(plan.signals().size());
            keyed = KeyedPlan.of(plan, media, mostDetail, leastDetail);
            latest = keyed;
        }
        return keyed;
    }

    /** A plan of which as much is to be gathered of some signals as of any. */
    private KeyedPlan asking(Plan plan, BitSet asked) {
        return keyed(plan).asking(asked, mostDetail, leastDetail);
    }

    /**
     * Returns the series of the wanted signals that are known or follow by gains from known ones, without measuring.
     *
     * @return by index in the plan; the others are absent
     */
    public Map<Integer, LevelSeries> known(Plan plan, BitSet wanted) {
        return known.of(keyed(plan), wanted, Map.of());
    }

    /**
     * Returns the series of all wanted signals, measuring what is not known; of each as much as channels show of it.
     *
     * @return by index in the plan
     * @throws java.util.concurrent.CancellationException if the progress says stop; what was known stays known
     */
    public Map<Integer, LevelSeries> measure(Plan plan, BitSet wanted, Progress progress) {
        return measure(keyed(plan), wanted, progress);
    }

    /** What is measured of one signal, with all that is ever gathered. */
    private LevelSeries measure(Plan plan, int signal, Progress progress) {
        BitSet only = new BitSet();
        only.set(signal);
        return Objects.requireNonNull(
                measure(asking(plan, only), only, progress).get(signal));
    }

    private Map<Integer, LevelSeries> measure(KeyedPlan keyed, BitSet wanted, Progress progress) {
        KnownSeries.Look look = known.look(keyed, wanted);
        return look.missing().isEmpty() ? look.found() : known.of(keyed, wanted, run(keyed, look.missing(), progress));
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
        Map<Integer, LevelSeries> found = new SongRun(media, team, keyed, withKept(keyed, wanted), wanted, wanted)
                .over(fromFrame, toFrame, Map.of(), progress);
        found.replaceAll((i, series) -> series.startingAt(fromFrame));
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
        KeyedPlan keyed = asking(plan, wanted);
        boolean whole = fromFrame == 0 && toFrame == plan.lengthFrames();
        Map<Integer, LevelSeries> found =
                whole ? known.of(keyed, wanted, Map.of()) : known.stretch(keyed, wanted, fromFrame, toFrame);
        BitSet missing = new BitSet();
        wanted.stream().filter(i -> !found.containsKey(i)).forEach(missing::set);
        found.putAll(groups(keyed, missing, ASKED_AT_ONCE).run(progress, (group, part) -> {
            Map<Integer, LevelSeries> fresh = measure(keyed, group, fromFrame, toFrame, part);
            known.keepStretch(keyed, fresh, fromFrame, toFrame);
            return fresh;
        }));
        if (!missing.isEmpty()) {
            known.removeOldest();
        }
        return found;
    }

    /**
     * Returns the figures of a session's mix, measuring what is not known.
     *
     * @throws java.util.concurrent.CancellationException if the progress says stop
     */
    public Figures mix(Session session, Progress progress) {
        Plan plan = PlanCompiler.compile(session);
        return Figures.of(measure(plan, plan.output(), progress));
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
        return measure(plan, 0, progress);
    }

    /**
     * Returns the figures of what a track's trim would get in a session: its clips with their gains, fades and curves.
     *
     * @throws java.util.concurrent.CancellationException if the progress says stop
     */
    public Figures clips(Session session, Track track, Progress progress) {
        Plan plan = PlanCompiler.compile(session);
        LevelSeries series = measure(plan, plan.first(track.id()), progress);
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
        return measure(plan, edge.from(), progress).through(edge.gain().toArray());
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
        PlanRun run = PlanRun.ofStretch(withKept(keyed(plan), wanted), media, team, SongPart.BLOCK, wanted);
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
        PlanRun run = PlanRun.of(quick, media, team, SongPart.BLOCK, wanted);
        long at = Math.max(0, engineFrame - quick.memoryFrames(quick.reaching(wanted)));
        while (at < engineFrame) {
            progress.check();
            int frames = (int) Math.min(SongPart.BLOCK, engineFrame - at);
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
        known.keepMeasured(keyed(plan), enough);
    }

    /**
     * Computes what the next change goes on from, where nothing had to be measured because all levels were known: the
     * samples of buses, and what processors and meters remember along the song.
     *
     * @throws java.util.concurrent.CancellationException if the progress says stop; a change then computes what it needs
     */
    public void goOver(Plan plan, Progress progress) {
        KeyedPlan keyed = keyed(plan);
        BitSet wanted = (BitSet) keyed.worthKeeping().clone();
        BitSet measured = known.measured(keyed);
        if (!notedAtOnce(plan, measured) || !plan.remembers(plan.reaching(wanted))) {
            measured.clear();
        }
        wanted.or(measured);
        runGroup(keyed, wanted, measured, true, progress);
    }

    /**
     * Notes along the song what was measured in parts without noting it, so that a change of something late in the song is
     * measured from there on.
     *
     * @throws java.util.concurrent.CancellationException if the progress says stop; such a change is measured from the
     *     song's beginning on
     */
    public void noteAlong(Plan plan, Progress progress) {
        KeyedPlan keyed = keyed(plan);
        BitSet lacking = new BitSet();
        for (int i = 0; i < plan.signals().size(); i++) {
            lacking.set(i, unnoted.contains(keyed.key(i)));
        }
        if (!lacking.isEmpty() && notedAtOnce(plan, lacking)) {
            SongRun run = new SongRun(media, team, keyed, withKept(keyed, lacking), lacking, lacking);
            // Measured anew with it, because a meter that goes on from a note ends in other last bits than one of a
            // part.
            run.from(Milestones.Start.BEGINNING, milestones, Map.of(), progress)
                    .forEach((i, series) -> known.keep(keyed, i, series));
        }
        unnoted.clear();
    }

    /** Of a long song with many channels the meters would take more memory than a quicker change is worth. */
    private boolean notedAtOnce(Plan plan, BitSet measured) {
        return MeasureGroups.of(plan, measured, Integer.MAX_VALUE, mostNoteBytes)
                        .groups()
                        .size()
                <= 1;
    }

    /**
     * Makes a plan that was measured the one that the next is a change of: kept samples are forgotten where
     * neither it nor the one before has them, and what is noted along the song where it does not, but for the latest few.
     */
    public void standAt(Plan plan) {
        KeyedPlan keyed = keyed(plan);
        kept.standAt(keyed.keys());
        milestones.standsAt(keyed);
        unnoted.retainAll(keyed.keys());
    }

    /** The frame with which the latest run of a session began in which something remembers, for a test. */
    long begunAt() {
        return begunAt;
    }

    /** Bytes of samples that are kept, for a test. */
    long keptBytes() {
        return kept.usedBytes();
    }

    /** Forgets all kept samples, for a test of what happens without. */
    void forgetSamples() {
        kept.clear();
    }

    /**
     * Makes room for one bus that the next change will want kept, because fresh memory takes as long as a tenth of a
     * measurement.
     *
     * @param enough asked before each piece; true ends it
     */
    public void makeRoom(Plan plan, BooleanSupplier enough) {
        long bytes = KeptSignal.bytes(2, plan.lengthFrames() + plan.mostLatency());
        boolean made = false;
        while (!made && !enough.getAsBoolean()) {
            made = kept.reserve(bytes);
        }
    }

    private Map<Integer, LevelSeries> run(KeyedPlan keyed, BitSet missing, Progress progress) {
        return groups(keyed, missing, Integer.MAX_VALUE).run(progress, (group, part) -> {
            Map<Integer, LevelSeries> measured = runGroup(keyed, group, group, false, part);
            measured.replaceAll((i, series) -> known.keep(keyed, i, series));
            return measured;
        });
    }

    private MeasureGroups groups(KeyedPlan keyed, BitSet missing, int most) {
        return MeasureGroups.of(keyed.plan(), missing, most, mostHeapBytes * MEASURING_SHARES);
    }

    /**
     * Runs the song, and keeps the samples that a change goes on from.
     *
     * @param wanted what is computed
     * @param missing what is measured of it
     * @param noting whether it is to be noted along the song in any case, from its beginning on: samples that were not
     *     kept before are kept whole
     */
    private Map<Integer, LevelSeries> runGroup(
            KeyedPlan keyed, BitSet wanted, BitSet missing, boolean noting, Progress progress) {
        Plan plan = withKept(keyed, missing);
        SongRun run = new SongRun(media, team, keyed, plan, wanted, missing);
        // Also where this run hears of nothing that remembers, meters go on from what was noted before a change.
        boolean remembers = keyed.plan().remembers();
        Milestones.Start start = remembers && !noting
                ? milestones.start(keyed, plan, run.computed(), missing)
                : Milestones.Start.BEGINNING;
        Map<Integer, KeptSignal> keeping = kept.rooms(keyed, plan, run.computed(), start);
        Map<Integer, LevelSeries> measured;
        boolean done = false;
        if (remembers) {
            begunAt = start.frame();
        }
        try {
            // What is heard from the beginning on has nothing to go on from, and the next step of it neither.
            if (remembers && (noting || Milestones.worthNoting(start, plan) || !run.divides())) {
                measured = run.from(start, milestones, keeping, progress);
            } else {
                measured = run.over(0, plan.lengthFrames(), keeping, progress);
                if (remembers) {
                    missing.stream().forEach(i -> unnoted.add(keyed.key(i)));
                }
            }
            done = true;
        } finally {
            if (!done) {
                keeping.values().forEach(kept::release);
            }
        }
        keeping.forEach((i, samples) -> kept.put(keyed.key(i), samples));
        return measured;
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
