package waterwheel.core.engine;

import java.lang.foreign.Arena;
import java.lang.foreign.MemorySegment;
import java.lang.foreign.ValueLayout;

/**
 * A whole song's samples of one signal, kept outside the Java heap. Writers of different planes or ranges may be
 * different threads.
 */
public final class KeptSignal implements AutoCloseable {
    private final Arena arena = Arena.ofShared();
    private final MemorySegment samples;
    private final long frames;

    public KeptSignal(int planes, long frames) {
        this.frames = frames;
        samples = arena.allocate(bytes(planes, frames), Float.BYTES);
    }

    /** What a signal takes in memory. */
    public static long bytes(int planes, long frames) {
        return Math.max(1, planes * frames) * Float.BYTES;
    }

    /** What this one takes in memory. */
    public long bytes() {
        return samples.byteSize();
    }

    void write(int plane, long firstFrame, float[] from, int count) {
        MemorySegment.copy(from, 0, samples, ValueLayout.JAVA_FLOAT, offset(plane, firstFrame), count);
    }

    /** How many frames are kept. */
    public long frames() {
        return frames;
    }

    void read(int plane, long firstFrame, float[] to, int count) {
        MemorySegment.copy(samples, ValueLayout.JAVA_FLOAT, offset(plane, firstFrame), to, 0, count);
    }

    /** Takes over the first frames of another signal of as many planes and frames. */
    public void copyFirst(KeptSignal other, long count) {
        long plane = frames * Float.BYTES;
        for (long at = 0; count > 0 && at + plane <= samples.byteSize(); at += plane) {
            MemorySegment.copy(other.samples, at, samples, at, count * Float.BYTES);
        }
    }

    private long offset(int plane, long frame) {
        return (plane * frames + frame) * Float.BYTES;
    }

    @Override
    public void close() {
        arena.close();
    }
}
