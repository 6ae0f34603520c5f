package waterwheel.core.engine;

import java.util.Collections;
import java.util.HashMap;
import java.util.Map;
import java.util.NavigableMap;
import java.util.concurrent.ConcurrentSkipListMap;
import java.util.concurrent.atomic.AtomicLong;
import java.util.function.Supplier;

/**
 * Notes what the processors and delays of a run remember at frames that divide by a number, as they pass there. Each
 * signal's are noted by the thread that computes it.
 */
final class MemoryNotes {
    private final Map<Integer, NavigableMap<Long, Remembered>> bySignal = new HashMap<>();
    private final AtomicLong leftBytes = new AtomicLong();
    private long every;

    /** Says that a signal remembers. */
    void expect(int index) {
        bySignal.put(index, new ConcurrentSkipListMap<>());
    }

    /**
     * Begins to note.
     *
     * @param frames at which multiples; 0 for not at all
     * @param mostBytes what the notes may take; what finds no room is not noted
     */
    void every(long frames, long mostBytes) {
        every = frames;
        leftBytes.set(mostBytes);
    }

    /** Whether what is remembered before a frame is to be noted. */
    boolean due(long frame) {
        return every > 0 && frame > 0 && frame % every == 0;
    }

    /** Returns the note of a signal at a frame, made where there is none: one for all of its parts or planes. */
    Remembered shared(int index, long frame, Supplier<Remembered> made) {
        return of(index).computeIfAbsent(frame, _ -> made.get());
    }

    /** Whether there is room for so many bytes, which then are taken. */
    boolean room(long bytes) {
        return leftBytes.addAndGet(-bytes) >= 0;
    }

    /** By frame what a signal remembers there. */
    NavigableMap<Long, Remembered> of(int index) {
        return bySignal.getOrDefault(index, Collections.emptyNavigableMap());
    }
}
