package waterwheel.core.levels;

import java.util.BitSet;
import java.util.Collections;
import java.util.HashMap;
import java.util.HashSet;
import java.util.IdentityHashMap;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Set;
import java.util.function.BooleanSupplier;
import org.jspecify.annotations.Nullable;
import waterwheel.core.engine.KeptSignal;
import waterwheel.core.engine.Plan;
import waterwheel.core.engine.SamplePool;
import waterwheel.core.engine.Signal;
import waterwheel.core.engine.SignalKey;

/**
 * Samples of buses, kept so that a change elsewhere does not compute them again. Within a bound of memory: what finds
 * no room is not kept and costs time instead. One thread at a time.
 */
final class KeptSignals implements AutoCloseable {
    private final long mostBytes;
    private final SamplePool pool = new SamplePool();
    private final Map<SignalKey, KeptSignal> kept = new LinkedHashMap<>(16, 0.75f, true);
    /** What the present session has; the others are those of the one before it, because an undo may want them. */
    private final Set<SignalKey> present = new HashSet<>();
    /** What has been given room and may still take it. */
    private long promised;

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
            KeptSignal one = start.later() ? find(key) : null;
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
                    room.takeFirst(was, start.frame());
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
        long wanted = promised + KeptSignal.bytes(planes, frames);
        // What only an undo would want gives way before fresh memory is taken, and then what was not asked for the
        // longest.
        giveWay(spare(), inUse, () -> pool.freeBytes() < wanted);
        giveWay(List.copyOf(kept.entrySet()), inUse, () -> pool.usedBytes() + wanted > mostBytes);
        if (pool.usedBytes() + wanted > mostBytes) {
            return null;
        }
        promised = wanted;
        return new KeptSignal(pool, planes, frames);
    }

    /** What the present session does not have, the oldest first. */
    private List<Map.Entry<SignalKey, KeptSignal>> spare() {
        return kept.entrySet().stream()
                .filter(one -> !present.contains(one.getKey()))
                .toList();
    }

    private void giveWay(List<Map.Entry<SignalKey, KeptSignal>> some, Set<KeptSignal> inUse, BooleanSupplier wanting) {
        for (Map.Entry<SignalKey, KeptSignal> one : some) {
            if (!inUse.contains(one.getValue()) && wanting.getAsBoolean()) {
                giveWay(one);
            }
        }
    }

    private void giveWay(Map.Entry<SignalKey, KeptSignal> one) {
        kept.remove(one.getKey());
        one.getValue().close();
    }

    /**
     * Makes sure that some memory will be found at once.
     *
     * @return whether it will, or no more may be taken; if not, there is some more now
     */
    boolean reserve(long bytes) {
        long spare =
                spare().stream().mapToLong(one -> one.getValue().mostBytes()).sum();
        if (pool.freeBytes() + spare < bytes && pool.freeBytes() + pool.usedBytes() < mostBytes) {
            pool.makeMore();
            return false;
        }
        return true;
    }

    void put(SignalKey key, KeptSignal signal) {
        promised -= signal.mostBytes();
        present.add(key);
        KeptSignal earlier = kept.put(key, signal);
        if (earlier != null) {
            earlier.close();
        }
    }

    /** Takes the room of a signal back. */
    void release(KeptSignal signal) {
        promised -= signal.mostBytes();
        signal.close();
    }

    /** Goes over to another session: what it does not have stays if the one before had it, which an undo comes back to. */
    void standAt(List<SignalKey> wanted) {
        Set<SignalKey> all = Set.copyOf(wanted);
        if (present.equals(all)) {
            return;
        }
        present.addAll(all);
        spare().forEach(this::giveWay);
        present.retainAll(all);
    }

    /** Forgets all. */
    void clear() {
        List.copyOf(kept.entrySet()).forEach(this::giveWay);
    }

    /** Bytes that are in use, for a test. */
    long usedBytes() {
        return pool.usedBytes();
    }

    @Override
    public void close() {
        kept.clear();
        pool.close();
    }
}
