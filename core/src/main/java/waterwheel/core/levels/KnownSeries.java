package waterwheel.core.levels;

import java.util.BitSet;
import java.util.HashMap;
import java.util.Iterator;
import java.util.LinkedHashMap;
import java.util.Map;
import java.util.Optional;
import java.util.function.BooleanSupplier;
import org.jspecify.annotations.Nullable;
import waterwheel.core.engine.Signal;
import waterwheel.core.engine.SignalKey;
import waterwheel.core.metering.Detail;
import waterwheel.core.metering.LevelSeries;
import waterwheel.core.metering.SeriesFile;

/**
 * What was measured so far, by what it is made of: on the heap, of which the least used is forgotten beyond a bound; in
 * the session's cache; and what follows from either by gains. One thread at a time.
 */
final class KnownSeries {
    /** A series that takes more than this part of what is remembered goes to a temporary file. */
    private static final int LONG_PART = 16;

    private final MeasureCache cache;
    private final Detail mostDetail;
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

    KnownSeries(MeasureCache cache, Detail mostDetail, long mostHeapBytes) {
        this.cache = cache;
        this.mostDetail = mostDetail;
        this.mostHeapBytes = mostHeapBytes;
    }

    /** Makes room for what follows by gains in a plan of so many signals. */
    void expect(int signals) {
        mostGained = Math.max(mostGained, 2 * signals);
    }

    /**
     * The series of those of the wanted signals that are known, or follow from known ones.
     *
     * @param fresh what was just measured: that may be more than what there is room to remember
     * @return by index in the plan; the others are absent
     */
    Map<Integer, LevelSeries> of(KeyedPlan keyed, BitSet wanted, Map<Integer, LevelSeries> fresh) {
        Map<Integer, LevelSeries> derived = derived(keyed, wanted, fresh);
        derived.keySet().removeIf(i -> !wanted.get(i));
        return derived;
    }

    /**
     * What is known of some signals, and what must be measured for the others to be: they themselves, or what they follow
     * from.
     */
    record Look(Map<Integer, LevelSeries> found, BitSet missing) {}

    Look look(KeyedPlan keyed, BitSet wanted) {
        Map<Integer, LevelSeries> derived = derived(keyed, wanted, Map.of());
        BitSet missing = new BitSet();
        wanted.stream().filter(i -> !derived.containsKey(i)).forEach(i -> missing.set(origin(keyed, i, derived)));
        derived.keySet().removeIf(i -> !wanted.get(i));
        return new Look(derived, missing);
    }

    /** The series of those of the wanted signals that are known over a stretch of the song. */
    Map<Integer, LevelSeries> stretch(KeyedPlan keyed, BitSet wanted, long fromFrame, long toFrame) {
        Map<Integer, LevelSeries> found = new HashMap<>();
        wanted.stream().forEach(i -> {
            LevelSeries one = cache.asked(asked(keyed, i, fromFrame, toFrame), keyed.detail(i));
            if (one != null) {
                found.put(i, one);
            }
        });
        return found;
    }

    /** Has what was measured over a stretch known the next time, and puts what stays in place of what was measured. */
    void keepStretch(KeyedPlan keyed, Map<Integer, LevelSeries> fresh, long fromFrame, long toFrame) {
        fresh.replaceAll(
                (index, one) -> cache.keepAsked(asked(keyed, index, fromFrame, toFrame), keyed.detail(index), one));
    }

    /**
     * What was measured of a signal over a whole song of so many frames, and did not follow from another by gains; empty
     * where that is not remembered or less was gathered than is wanted.
     */
    Optional<LevelSeries> measured(SignalKey key, Detail wanted, long frames) {
        return Optional.ofNullable(enough(series.get(key), wanted))
                .filter(one -> one.asMeasured() && one.frames() == frames);
    }

    /** Those signals of a plan that were measured so. */
    BitSet measured(KeyedPlan keyed) {
        BitSet measured = new BitSet();
        long frames = keyed.plan().lengthFrames();
        for (int i = 0; i < keyed.keys().size(); i++) {
            measured.set(i, measured(keyed.key(i), keyed.detail(i), frames).isPresent());
        }
        return measured;
    }

    /** The frame of the song up to which a signal is silent, as far as that is known; 0 where it is not. */
    long soundStart(KeyedPlan keyed, int index) {
        int at = index;
        LevelSeries one = known(keyed, at);
        while (one == null && keyed.follows().get(at) != KeyedPlan.NONE) {
            at = keyed.follows().get(at);
            one = known(keyed, at);
        }
        return one == null ? 0 : one.soundStart();
    }

    /** Keeps the session's cache within its bound, once all was kept. */
    void removeOldest() {
        cache.removeOldest();
    }

    /** Remembers what was measured of a signal; returns it as it stays. */
    LevelSeries keep(KeyedPlan keyed, int index, LevelSeries one) {
        SignalKey key = keyed.key(index);
        LevelSeries lasting = keyed.signal(index) instanceof Signal.Source ? cache.keep(key, mostDetail, one) : one;
        LevelSeries kept = lasting.heapBytes() > mostHeapBytes / LONG_PART ? SeriesFile.offHeap(lasting) : lasting;
        remember(key, kept);
        return kept;
    }

    /**
     * Has what was measured of a plan known the next time that the session is open.
     *
     * @param enough asked before each series; true ends it
     */
    void keepMeasured(KeyedPlan keyed, BooleanSupplier enough) {
        boolean wrote = false;
        for (int i = 0; i < keyed.plan().signals().size() && !enough.getAsBoolean(); i++) {
            LevelSeries one = enough(series.get(keyed.key(i)), keyed.detail(i));
            boolean ofFiles = keyed.signal(i) instanceof Signal.Source;
            if (one != null
                    && one.frames() == keyed.plan().lengthFrames()
                    && !ofFiles
                    && !cache.holds(asked(keyed, i), keyed.detail(i))) {
                cache.keepAsked(asked(keyed, i), keyed.detail(i), one);
                wrote = true;
            }
        }
        if (wrote) {
            removeOldest();
        }
    }

    private static String asked(KeyedPlan keyed, int index) {
        return asked(keyed, index, 0, keyed.plan().lengthFrames());
    }

    private static String asked(KeyedPlan keyed, int index, long fromFrame, long toFrame) {
        return keyed.key(index).hex() + "-" + fromFrame + "-" + toFrame;
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
        LevelSeries measured = enough(series.get(key), keyed.detail(index));
        LevelSeries known = keyed.fitting(index, measured);
        if (known == null) {
            known = keyed.fitting(index, enough(gained.get(key), keyed.detail(index)));
        }
        if (known == null) {
            measured = keyed.signal(index) instanceof Signal.Source
                    ? cache.series(key, mostDetail)
                    : cache.asked(asked(keyed, index), keyed.detail(index));
            known = keyed.fitting(index, measured);
        }
        if (known != null && measured != null && known != series.get(key)) {
            remember(key, known);
        }
        return known;
    }

    /** A series of which as much was gathered as is wanted; null where it was not. */
    private static @Nullable LevelSeries enough(@Nullable LevelSeries one, Detail wanted) {
        return one == null || wanted == Detail.LEVELS || one.hasLoudness() ? one : null;
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
}
