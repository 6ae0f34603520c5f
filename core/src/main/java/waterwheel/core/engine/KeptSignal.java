package waterwheel.core.engine;

import java.lang.foreign.MemorySegment;
import java.lang.foreign.ValueLayout;
import java.util.Arrays;
import java.util.concurrent.atomic.AtomicReferenceArray;
import org.jspecify.annotations.Nullable;
import waterwheel.core.engine.SamplePool.Chunk;

/**
 * A whole song's samples of one signal, kept outside the Java heap. Silence takes no memory, nor does what another signal
 * has in common with it. Writers of different planes or ranges may be different threads.
 */
public final class KeptSignal implements AutoCloseable {
    private static final float[] SILENCE = new float[SamplePool.CHUNK];

    private final SamplePool pool;
    private final int planes;
    private final long frames;
    private final int perPlane;
    /** Plane by plane; where there is none, there is silence. */
    private final AtomicReferenceArray<@Nullable Chunk> chunks;

    /** Makes a silent one. */
    public KeptSignal(SamplePool pool, int planes, long frames) {
        this.pool = pool;
        this.planes = planes;
        this.frames = frames;
        perPlane = chunks(frames);
        chunks = new AtomicReferenceArray<>(planes * perPlane);
    }

    private static int chunks(long frames) {
        return Math.toIntExact((frames + SamplePool.CHUNK - 1) / SamplePool.CHUNK);
    }

    /** What a signal that is nowhere silent takes in memory. */
    public static long bytes(int planes, long frames) {
        return (long) planes * chunks(frames) * SamplePool.CHUNK_BYTES;
    }

    /** What this one takes at most. */
    public long mostBytes() {
        return bytes(planes, frames);
    }

    /** How many frames are kept. */
    public long frames() {
        return frames;
    }

    /** Keeps {@code from[begin .. begin + count)} as a plane's samples from a frame on. */
    public void write(int plane, long firstFrame, float[] from, int begin, int count) {
        int done = 0;
        while (done < count) {
            int place = place(plane, firstFrame + done);
            int offset = (int) ((firstFrame + done) % SamplePool.CHUNK);
            int part = Math.min(count - done, SamplePool.CHUNK - offset);
            Chunk chunk = chunks.getAcquire(place);
            if (chunk == null && !silent(from, begin + done, part)) {
                chunk = take(place);
            }
            if (chunk != null) {
                MemorySegment.copy(from, begin + done, chunk.samples, ValueLayout.JAVA_FLOAT, bytes(offset), part);
            }
            done += part;
        }
    }

    /** To the last bit: a negative zero is no silence. */
    private static boolean silent(float[] samples, int first, int count) {
        return Arrays.equals(samples, first, first + count, SILENCE, 0, count);
    }

    /** Another thread may write to the same chunk's other end. */
    private Chunk take(int place) {
        Chunk fresh = pool.take();
        Chunk other = chunks.compareAndExchange(place, null, fresh);
        if (other == null) {
            return fresh;
        }
        pool.giveBack(fresh);
        return other;
    }

    /** Reads a plane's samples from a frame on; those before the first frame are silent. */
    void read(int plane, long firstFrame, float[] to, int count) {
        int done = Math.clamp(-firstFrame, 0, count);
        Arrays.fill(to, 0, done, 0);
        while (done < count) {
            Chunk chunk = chunks.getAcquire(place(plane, firstFrame + done));
            int offset = (int) ((firstFrame + done) % SamplePool.CHUNK);
            int part = Math.min(count - done, SamplePool.CHUNK - offset);
            if (chunk == null) {
                Arrays.fill(to, done, done + part, 0);
            } else {
                MemorySegment.copy(chunk.samples, ValueLayout.JAVA_FLOAT, bytes(offset), to, done, part);
            }
            done += part;
        }
    }

    /** Takes over the first frames of another signal of as many planes and frames, before anything is written. */
    public void takeFirst(KeptSignal other, long count) {
        int whole = (int) (count / SamplePool.CHUNK);
        for (int plane = 0; plane < planes; plane++) {
            for (int i = 0; i < chunks(count); i++) {
                int place = plane * perPlane + i;
                Chunk chunk = other.chunks.get(place);
                if (chunk != null) {
                    chunks.set(place, i < whole ? pool.share(chunk) : pool.copy(chunk));
                }
            }
        }
    }

    private int place(int plane, long frame) {
        return plane * perPlane + (int) (frame / SamplePool.CHUNK);
    }

    private static long bytes(int samples) {
        return (long) samples * Float.BYTES;
    }

    /** Gives its memory back; it is silent then. */
    @Override
    public void close() {
        for (int i = 0; i < chunks.length(); i++) {
            Chunk chunk = chunks.getAndSet(i, null);
            if (chunk != null) {
                pool.giveBack(chunk);
            }
        }
    }
}
