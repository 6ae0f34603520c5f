package waterwheel.core.levels;

import java.util.ArrayDeque;
import java.util.BitSet;
import java.util.Collections;
import java.util.Deque;
import java.util.HashMap;
import java.util.HashSet;
import java.util.IdentityHashMap;
import java.util.Iterator;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Set;
import org.jspecify.annotations.Nullable;
import waterwheel.core.engine.KeptSignal;
import waterwheel.core.engine.Plan;
import waterwheel.core.engine.Signal;
import waterwheel.core.engine.SignalKey;

/**
 * Samples of buses, kept so that a change elsewhere does not compute them again. Within a bound of memory: what finds
 * no room is not kept and costs time instead. Freed memory is used again, because fresh memory must first be cleared.
 * One thread at a time.
 */
final class KeptSignals implements AutoCloseable {
    private final long mostBytes;
    private final Map<SignalKey, KeptSignal> kept = new LinkedHashMap<>(16, 0.75f, true);
    private final Deque<KeptSignal> free = new ArrayDeque<>();
    private long bytes;

    KeptSignals(long mostBytes) {
        this.mostBytes = mostBytes;
    }

    @Nullable
    KeptSignal find(SignalKey key) {
        return kept.get(key);
    }

    /**
     * Where a run keeps samples, by index, as far as there is room; with those before its start.
     *
     * @param run the plan with samples in hand
     * @param computed what is computed of it, without what is in hand
     */
    Map<Integer, KeptSignal> rooms(KeyedPlan keyed, Plan run, BitSet computed, Milestones.Start start) {
        Set<KeptSignal> inUse = Collections.newSetFromMap(new IdentityHashMap<>());
        run.signals().forEach(signal -> {
            if (signal instanceof Signal.Kept known) {
                inUse.add(known.samples());
            }
        });
        Map<Integer, KeptSignal> before = new HashMap<>();
        start.was().forEach((i, key) -> {
            KeptSignal one = find(key);
            if (one != null) {
                inUse.add(one);
                before.put(i, one);
            }
        });
        long frames = run.lengthFrames() + run.mostLatency();
        Map<Integer, KeptSignal> keeping = new HashMap<>();
        // What had to be computed again only for others to be measured is kept too, so that it was the last time.
        computed.stream().filter(i -> keyed.worthKeeping().get(i)).forEach(i -> {
            KeptSignal was = before.get(i);
            boolean begins = !start.later() || (was != null && was.frames() == frames);
            KeptSignal room = begins ? room(run.signals().get(i).planes(), frames, inUse) : null;
            if (room != null) {
                if (was != null) {
                    room.copyFirst(was, start.frame());
                }
                keeping.put(i, room);
            }
        });
        return keeping;
    }

    /**
     * Room for a signal, or null where there is none. Give it to {@link #put} or to {@link #release}.
     *
     * @param inUse what must stay as it is, because it is being read
     */
    @Nullable
    KeptSignal room(int planes, long frames, Set<KeptSignal> inUse) {
        long wanted = KeptSignal.bytes(planes, frames);
        for (Iterator<KeptSignal> all = free.iterator(); all.hasNext(); ) {
            KeptSignal one = all.next();
            if (one.bytes() == wanted) {
                all.remove();
                return one;
            }
        }
        dropFree(wanted);
        // What was not asked for the longest gives way.
        for (Iterator<KeptSignal> oldest = kept.values().iterator(); bytes + wanted > mostBytes && oldest.hasNext(); ) {
            KeptSignal one = oldest.next();
            if (!inUse.contains(one)) {
                oldest.remove();
                if (one.bytes() == wanted) {
                    return one;
                }
                bytes -= one.bytes();
                one.close();
            }
        }
        if (bytes + wanted > mostBytes) {
            return null;
        }
        return fresh(planes, frames);
    }

    private KeptSignal fresh(int planes, long frames) {
        KeptSignal made = new KeptSignal(planes, frames);
        bytes += made.bytes();
        return made;
    }

    /** Gives back freed memory of other sizes, which a song of another length left, as far as there is no room else. */
    private void dropFree(long wanted) {
        for (Iterator<KeptSignal> all = free.iterator(); bytes + wanted > mostBytes && all.hasNext(); ) {
            KeptSignal one = all.next();
            if (one.bytes() != wanted) {
                all.remove();
                bytes -= one.bytes();
                one.close();
            }
        }
    }

    /**
     * Makes sure that some signals will find room at once.
     *
     * @return whether they will, or no more memory may be taken; if not, one more would now
     */
    boolean reserve(int planes, long frames, int count) {
        long wanted = KeptSignal.bytes(planes, frames);
        long ready = free.stream().filter(one -> one.bytes() == wanted).count();
        if (ready >= count) {
            return true;
        }
        dropFree(wanted);
        if (bytes + wanted > mostBytes) {
            return true;
        }
        free.add(fresh(planes, frames));
        return ready + 1 == count;
    }

    void put(SignalKey key, KeptSignal signal) {
        KeptSignal earlier = kept.put(key, signal);
        if (earlier != null) {
            release(earlier);
        }
    }

    /** Takes memory back for the next signal. */
    void release(KeptSignal signal) {
        free.add(signal);
    }

    /** Forgets the signals that are not present, but for the latest few: an undo may want those. */
    void keepOnly(List<SignalKey> present, int spare) {
        Set<SignalKey> wanted = new HashSet<>(present);
        long gone = kept.keySet().stream().filter(key -> !wanted.contains(key)).count() - spare;
        for (Iterator<Map.Entry<SignalKey, KeptSignal>> all = kept.entrySet().iterator(); all.hasNext() && gone > 0; ) {
            Map.Entry<SignalKey, KeptSignal> oldest = all.next();
            if (!wanted.contains(oldest.getKey())) {
                release(oldest.getValue());
                all.remove();
                gone--;
            }
        }
    }

    @Override
    public void close() {
        kept.values().forEach(KeptSignal::close);
        free.forEach(KeptSignal::close);
        kept.clear();
        free.clear();
    }
}
