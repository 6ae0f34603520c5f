package waterwheel.core.audiofile;

import java.lang.foreign.MemorySegment;
import java.lang.foreign.ValueLayout;
import java.nio.ByteBuffer;
import java.nio.ByteOrder;

/**
 * Puts left and right side by side as little-endian floats, by way of ints, whose loops are compiled to vector
 * instructions. One thread at a time.
 */
final class FloatInterleaver {
    private static final int CHUNK = 1_024;

    private final int[] left = new int[CHUNK];
    private final int[] right = new int[CHUNK];
    private final long[] pairs = new long[CHUNK];
    private final MemorySegment leftMemory = MemorySegment.ofArray(left);
    private final MemorySegment rightMemory = MemorySegment.ofArray(right);
    private static final ValueLayout.OfLong LONG = ValueLayout.JAVA_LONG_UNALIGNED.withOrder(ByteOrder.LITTLE_ENDIAN);

    /** Writes frames to the buffer from its position on, which stays where it is. */
    void interleave(float[] leftSide, float[] rightSide, int from, int frames, ByteBuffer target) {
        MemorySegment out = MemorySegment.ofBuffer(target);
        for (int done = 0; done < frames; done += CHUNK) {
            int part = Math.min(CHUNK, frames - done);
            MemorySegment.copy(leftSide, from + done, leftMemory, ValueLayout.JAVA_FLOAT, 0, part);
            MemorySegment.copy(rightSide, from + done, rightMemory, ValueLayout.JAVA_FLOAT, 0, part);
            for (int i = 0; i < part; i++) {
                pairs[i] = (left[i] & 0xFFFF_FFFFL) | ((long) right[i] << 32);
            }
            MemorySegment.copy(pairs, 0, out, LONG, (long) done * 2 * Float.BYTES, part);
        }
    }
}
