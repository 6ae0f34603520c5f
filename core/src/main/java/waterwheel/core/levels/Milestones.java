package waterwheel.core.levels;

import java.util.BitSet;
import java.util.Collections;
import java.util.HashMap;
import java.util.HashSet;
import java.util.Iterator;
import java.util.LinkedHashMap;
import java.util.Map;
import java.util.NavigableMap;
import java.util.Objects;
import java.util.Set;
import java.util.TreeMap;
import java.util.stream.Collectors;
import java.util.stream.Stream;
import org.jspecify.annotations.Nullable;
import waterwheel.core.engine.Plan;
import waterwheel.core.engine.PlanChange;
import waterwheel.core.engine.PlanRun;
import waterwheel.core.engine.Remembered;
import waterwheel.core.engine.SignalKey;
import waterwheel.core.metering.Detail;
import waterwheel.core.metering.MeterNote;
import waterwheel.core.metering.SeriesMeter;

/**
 * What processors, delays and meters remember at some frames along the song, by what their signals are made of. A plan that
 * differs from the one before only from some place of the song on is run from the milestone before that place, and comes to
 * the same bits as if it had been run from the beginning. One thread at a time.
 */
final class Milestones {
    private static final int ALONG_SONG = 8;
    private static final int SHORTEST_SECONDS = 4;
    /** Signals of earlier plans that are not forgotten: an undo, or the next step of a drag, goes on from a dozen or two. */
    private static final int SPARE = 256;

    private final KnownSeries known;
    /** What all may take. */
    private final long mostBytes;

    private final Map<SignalKey, Passed> passed = new LinkedHashMap<>(64, 0.75f, true);
    private @Nullable KeyedPlan before;

    /** What was noted of a signal, by frame; all of it whole, so that a run can go on from there. */
    private record Passed(NavigableMap<Long, Remembered> memories, NavigableMap<Long, MeterNote> notes) {
        static final Passed NOTHING = new Passed(Collections.emptyNavigableMap(), Collections.emptyNavigableMap());

        static Passed of(NavigableMap<Long, Remembered> memories, @Nullable SeriesMeter meter) {
            NavigableMap<Long, Remembered> whole = new TreeMap<>(memories);
            whole.values().removeIf(one -> !one.whole());
            NavigableMap<Long, MeterNote> notes = new TreeMap<>(meter == null ? NOTHING.notes : meter.notes());
            notes.values().removeIf(one -> !one.whole());
            return new Passed(whole, notes);
        }

        /** What was noted up to a frame and there. */
        Passed until(long frame) {
            return new Passed(memories.headMap(frame, true), notes.headMap(frame, true));
        }

        Passed and(Passed more) {
            return new Passed(joined(memories, more.memories), joined(notes, more.notes));
        }

        private static <T> NavigableMap<Long, T> joined(NavigableMap<Long, T> some, NavigableMap<Long, T> others) {
            NavigableMap<Long, T> all = new TreeMap<>(some);
            all.putAll(others);
            return all;
        }
    }

    Milestones(KnownSeries known, long mostBytes) {
        this.known = known;
        this.mostBytes = mostBytes;
    }

    /**
     * Where a run begins.
     *
     * @param frame a milestone, as a run counts; 0 for the song's beginning
     * @param alike how many of its first frames, as it counts, come to what they were in the plan before
     * @param was by index the key that the signal had in that plan; none where nothing is alike
     */
    record Start(long frame, long alike, Map<Integer, SignalKey> was) {
        static final Start BEGINNING = new Start(0, 0, Map.of());

        boolean later() {
            return frame > 0;
        }
    }

    /** Whether a run that begins there passes milestones before it comes to something new, of use for the next one like it. */
    static boolean worthNoting(Start start, Plan plan) {
        return start.alike() >= spacing(plan);
    }

    /** How many frames lie between milestones in a song. */
    private static long spacing(Plan plan) {
        long wanted = Math.max(plan.lengthFrames() / ALONG_SONG, (long) SHORTEST_SECONDS * plan.sampleRateHz());
        return Math.ceilDiv(wanted, SongPart.BLOCK) * SongPart.BLOCK;
    }

    /** Makes a plan, whose levels are all known now, the one that the next differs from. */
    void standsAt(KeyedPlan plan) {
        before = plan;
        Set<SignalKey> present = new HashSet<>(plan.keys());
        // Asked for, so that what was there lately is forgotten last.
        Set<Remembered> needed = memories(present.stream().map(this::of));
        long gone =
                passed.keySet().stream().filter(key -> !present.contains(key)).count() - SPARE;
        long held = heldBytes();
        // Half stays free for what the next run notes.
        for (Iterator<Map.Entry<SignalKey, Passed>> all = passed.entrySet().iterator();
                all.hasNext() && (gone > 0 || held > mostBytes / 2); ) {
            Map.Entry<SignalKey, Passed> oldest = all.next();
            if (!present.contains(oldest.getKey())) {
                for (Remembered one : oldest.getValue().memories().values()) {
                    held -= needed.contains(one) ? 0 : one.bytes();
                }
                all.remove();
                gone--;
            }
        }
    }

    /** What all takes. */
    private long heldBytes() {
        return memories(passed.values().stream()).stream()
                .mapToLong(Remembered::bytes)
                .sum();
    }

    /** What was noted of processors and delays, each once: several signals may have the same. */
    private static Set<Remembered> memories(Stream<Passed> some) {
        return some.flatMap(one -> one.memories().values().stream()).collect(Collectors.toSet());
    }

    /** Forgets the plan before: files may have changed, of which a plan says nothing. */
    void beginAnew() {
        before = null;
    }

    /**
     * Where the run of a plan can begin: at the last milestone before the first change that it hears, if enough is known
     * there.
     *
     * @param run the plan with samples in hand
     * @param computed what is computed of it, without what is in hand
     * @param measured what is measured of that
     */
    Start start(KeyedPlan keyed, Plan run, BitSet computed, BitSet measured) {
        KeyedPlan other = before;
        if (other == null) {
            return Start.BEGINNING;
        }
        Plan plan = keyed.plan();
        long[] same =
                PlanChange.sameFrames(plan, keyed.keys(), other.plan(), other.keys(), i -> known.soundStart(keyed, i));
        long alike = plan.lengthFrames();
        Map<Integer, SignalKey> was = new HashMap<>();
        for (int i = computed.nextSetBit(0); i >= 0; i = computed.nextSetBit(i + 1)) {
            alike = Math.min(alike, same[i]);
            int old = other.plan().find(keyed.signal(i).id());
            if (alike == 0 || other.detail(old) != keyed.detail(i)) {
                return Start.BEGINNING;
            }
            was.put(i, other.key(old));
        }
        BitSet remembering = run.remembering(computed);
        boolean complete = measured.stream()
                .allMatch(i -> known.measured(Objects.requireNonNull(was.get(i)), keyed.detail(i), plan.lengthFrames())
                        .isPresent());
        long spacing = spacing(plan);
        long frame = complete ? alike / spacing * spacing : 0;
        while (frame > 0 && !passed(frame, was, remembering, measured)) {
            frame -= spacing;
        }
        return new Start(frame, alike, was);
    }

    /** Whether all that is needed was noted at a milestone. */
    private boolean passed(long frame, Map<Integer, SignalKey> was, BitSet remembering, BitSet measured) {
        return remembering.stream().allMatch(i -> of(was.get(i)).memories().containsKey(frame))
                && measured.stream().allMatch(i -> of(was.get(i)).notes().containsKey(frame));
    }

    /** Has a run go on from its start, and its meters from what was measured before; and note what it passes. */
    void goOn(Start start, PlanRun run, Map<Integer, SeriesMeter> meters) {
        run.noteEvery(spacing(run.plan()), Math.max(0, mostBytes - heldBytes()));
        if (!start.later()) {
            return;
        }
        Map<Integer, Remembered> memories = new HashMap<>();
        start.was().forEach((i, key) -> {
            Remembered one = of(key).memories().get(start.frame());
            if (one != null) {
                memories.put(i, one);
            }
        });
        run.goOn(start.frame(), memories);
        meters.forEach((i, meter) -> {
            SignalKey key = Objects.requireNonNull(start.was().get(i));
            meter.goOn(
                    Objects.requireNonNull(of(key).notes().get(start.frame())),
                    known.measured(key, Detail.LEVELS, run.plan().lengthFrames())
                            .orElseThrow());
        });
    }

    /**
     * Remembers what a run noted, and what was noted before its start. What it noted where it came to the same as the plan
     * before holds for that one too: the next change may well be one of it.
     *
     * @param computed what the run computed, without what was in hand
     */
    void note(KeyedPlan keyed, Start start, PlanRun run, BitSet computed, Map<Integer, SeriesMeter> meters) {
        computed.stream().forEach(i -> {
            SignalKey key = keyed.key(i);
            SignalKey before = start.was().get(i);
            Passed fresh = Passed.of(run.noted(i), meters.get(i));
            Passed was = of(before);
            remember(key, of(key).and(was.until(start.frame())).and(fresh));
            if (before != null && !before.equals(key)) {
                remember(before, was.and(fresh.until(start.alike())));
            }
        });
    }

    private void remember(SignalKey key, Passed all) {
        if (!all.memories().isEmpty() || !all.notes().isEmpty()) {
            passed.put(key, all);
        }
    }

    private Passed of(@Nullable SignalKey key) {
        return key == null ? Passed.NOTHING : passed.getOrDefault(key, Passed.NOTHING);
    }
}
