package waterwheel.core.audiofile;

import java.lang.foreign.MemorySegment;
import java.lang.foreign.ValueLayout;
import java.nio.ByteOrder;

/**
 * Turns stored little-endian samples into floats. The way of each encoding (a copy into an array first, or straight
 * from memory) is the one that measured fastest. Allocates nothing after construction. One thread at a time.
 */
final class SampleDecoder {
    private static final ValueLayout.OfLong LONG = ValueLayout.JAVA_LONG_UNALIGNED.withOrder(ByteOrder.LITTLE_ENDIAN);
    private static final ValueLayout.OfDouble DOUBLE =
            ValueLayout.JAVA_DOUBLE_UNALIGNED.withOrder(ByteOrder.LITTLE_ENDIAN);
    private static final ValueLayout.OfShort SHORT =
            ValueLayout.JAVA_SHORT_UNALIGNED.withOrder(ByteOrder.LITTLE_ENDIAN);
    private static final ValueLayout.OfInt INT = ValueLayout.JAVA_INT_UNALIGNED.withOrder(ByteOrder.LITTLE_ENDIAN);

    private static final int INFINITE_BITS = 0x7F80_0000;

    private final SampleEncoding encoding;
    private final MemorySegment stored;
    // Only those that the encoding needs have a length.
    private final float[] floats;
    private final short[] shorts;
    private final int[] ints;
    private final int[] rightInts;
    private final MemorySegment intsAsMemory;
    private final MemorySegment rightAsMemory;
    private final double[] doubles;

    SampleDecoder(SampleEncoding encoding, MemorySegment stored, int maxSamples) {
        this.encoding = encoding;
        this.stored = stored;
        boolean bits = encoding == SampleEncoding.FLOAT_32;
        floats = new float[bits ? 0 : maxSamples];
        shorts = new short[encoding == SampleEncoding.PCM_16 ? maxSamples : 0];
        ints = new int[bits || encoding == SampleEncoding.PCM_24 || encoding == SampleEncoding.PCM_32 ? maxSamples : 0];
        rightInts = new int[bits ? maxSamples : 0];
        intsAsMemory = MemorySegment.ofArray(ints);
        rightAsMemory = MemorySegment.ofArray(rightInts);
        doubles = new double[encoding == SampleEncoding.FLOAT_64 ? maxSamples : 0];
    }

    /** Decodes consecutive samples of a mono file. */
    void decode(long first, float[] out, int at, int count) {
        if (encoding == SampleEncoding.FLOAT_32) {
            MemorySegment.copy(stored, INT, first * Float.BYTES, ints, 0, count);
            toFloats(ints, intsAsMemory, out, at, count);
        } else {
            fill(first, out, at, count);
        }
    }

    /** Decodes consecutive frames of a stereo file. */
    void decodePairs(long firstFrame, float[] left, float[] right, int at, int frames) {
        if (encoding == SampleEncoding.FLOAT_32) {
            long offset = firstFrame * Long.BYTES;
            for (int i = 0; i < frames; i++) {
                long pair = stored.get(LONG, offset + (long) Long.BYTES * i);
                ints[i] = (int) pair;
                rightInts[i] = (int) (pair >>> 32);
            }
            toFloats(ints, intsAsMemory, left, at, frames);
            toFloats(rightInts, rightAsMemory, right, at, frames);
            return;
        }
        fill(firstFrame * 2, floats, 0, frames * 2);
        for (int i = 0; i < frames; i++) {
            left[at + i] = floats[2 * i];
            right[at + i] = floats[2 * i + 1];
        }
    }

    /**
     * Turns the bits of floats into floats, non-finite ones into 0: one NaN would silence every bus below it for good.
     * Loops over ints are compiled to vector instructions where the same loops over floats are not, which makes this
     * several times as fast as it would be without the detour; the copy between the arrays is a move of memory.
     */
    private static void toFloats(int[] bits, MemorySegment sameBits, float[] out, int at, int count) {
        int largest = 0;
        for (int i = 0; i < count; i++) {
            largest = Math.max(largest, bits[i] & 0x7FFF_FFFF);
        }
        MemorySegment.copy(sameBits, ValueLayout.JAVA_FLOAT, 0, out, at, count);
        if (largest >= INFINITE_BITS) {
            silenceNonFinite(out, at, count);
        }
    }

    private void fill(long first, float[] out, int at, int count) {
        long offset = first * encoding.bytes();
        switch (encoding) {
            case PCM_16 -> {
                MemorySegment.copy(stored, SHORT, offset, shorts, 0, count);
                for (int i = 0; i < count; i++) {
                    out[at + i] = shorts[i] * 0x1p-15f;
                }
            }
            case PCM_24 -> fill24(offset, out, at, count);
            case PCM_32 -> {
                MemorySegment.copy(stored, INT, offset, ints, 0, count);
                for (int i = 0; i < count; i++) {
                    out[at + i] = ints[i] * 0x1p-31f;
                }
            }
            case FLOAT_32 ->
                throw new IllegalStateException("encoding: " + encoding + " (expected: one that is converted)");
            case FLOAT_64 -> {
                MemorySegment.copy(stored, DOUBLE, offset, doubles, 0, count);
                for (int i = 0; i < count; i++) {
                    out[at + i] = (float) doubles[i];
                }
                silenceNonFinite(out, at, count);
            }
        }
    }

    /**
     * Each sample but the last is the lower three bytes of the four from its place on. First the integers and then the
     * floats, because only the second loop can be compiled to vector instructions.
     */
    private void fill24(long offset, float[] out, int at, int count) {
        if (count == 0) {
            return;
        }
        int last = count - 1;
        for (int i = 0; i < last; i++) {
            ints[i] = stored.get(INT, offset + 3L * i) << 8;
        }
        long place = offset + 3L * last;
        int low = Short.toUnsignedInt(stored.get(SHORT, place));
        ints[last] = stored.get(ValueLayout.JAVA_BYTE, place + 2) << 24 | low << 8;
        for (int i = 0; i < count; i++) {
            out[at + i] = ints[i] * 0x1p-31f;
        }
    }

    private static void silenceNonFinite(float[] out, int at, int count) {
        for (int i = at, end = at + count; i < end; i++) {
            out[i] = Float.isFinite(out[i]) ? out[i] : 0;
        }
    }
}
