package waterwheel.core.engine;

import java.lang.foreign.Arena;
import java.lang.foreign.MemorySegment;
import java.util.ArrayDeque;
import java.util.Deque;

/**
 * Memory for samples outside the Java heap, in chunks of one size. Chunks that nobody uses any more are used again,
 * because fresh memory must first be cleared; all is given back at the end. May be used by several threads.
 */
public final class SamplePool implements AutoCloseable {
    /** Samples of a chunk: a third of a second of one plane. */
    public static final int CHUNK = 16_384;

    /** Bytes of a chunk. */
    public static final long CHUNK_BYTES = (long) CHUNK * Float.BYTES;

    private static final int CHUNKS_AT_ONCE = 64;

    private final Arena arena = Arena.ofShared();
    private final Deque<Chunk> free = new ArrayDeque<>();
    private long made;

    /** Some samples, which several signals may have in common. */
    static final class Chunk {
        final MemorySegment samples;
        private int users;

        private Chunk(MemorySegment samples) {
            this.samples = samples;
        }
    }

    /** A chunk of silence. */
    Chunk take() {
        Chunk chunk = next();
        chunk.samples.fill((byte) 0);
        return chunk;
    }

    /** A chunk with the samples of another. */
    Chunk copy(Chunk other) {
        Chunk chunk = next();
        chunk.samples.copyFrom(other.samples);
        return chunk;
    }

    private synchronized Chunk next() {
        if (free.isEmpty()) {
            makeMore();
        }
        Chunk chunk = free.pop();
        chunk.users = 1;
        return chunk;
    }

    /** Makes some chunks, so that they are at hand. */
    public synchronized void makeMore() {
        MemorySegment more = arena.allocate(CHUNKS_AT_ONCE * CHUNK_BYTES, Float.BYTES);
        for (int i = 0; i < CHUNKS_AT_ONCE; i++) {
            free.push(new Chunk(more.asSlice(i * CHUNK_BYTES, CHUNK_BYTES)));
        }
        made += CHUNKS_AT_ONCE;
    }

    /** Has a chunk used once more. */
    synchronized Chunk share(Chunk chunk) {
        chunk.users++;
        return chunk;
    }

    /** Has a chunk used once less; one that nobody uses is free. */
    synchronized void giveBack(Chunk chunk) {
        chunk.users--;
        if (chunk.users == 0) {
            free.push(chunk);
        }
    }

    /** Bytes that are in use. */
    public synchronized long usedBytes() {
        return (made - free.size()) * CHUNK_BYTES;
    }

    /** Bytes that were made and are not in use. */
    public synchronized long freeBytes() {
        return free.size() * CHUNK_BYTES;
    }

    @Override
    public void close() {
        arena.close();
    }
}
