package waterwheel.core.audiofile;

import java.lang.foreign.MemorySegment;
import java.lang.foreign.ValueLayout;
import java.nio.ByteOrder;

/**
 * Turns stored interleaved samples into planar floats. The way of each encoding (a copy into an array first, or
 * straight from memory) is the one that measured fastest. Allocates nothing after construction. One thread at a time.
 */
final class SampleDecoder implements AudioFile.Reader {
    private static final int INFINITE_BITS = 0x7F80_0000;
    /** Pairs that are taken apart while they are in the nearest cache. */
    private static final int CHUNK = 1_024;
    // Single values are read through constants only: a layout in a field costs ten times as much a sample.
    private static final ValueLayout.OfLong LITTLE_LONG =
            ValueLayout.JAVA_LONG_UNALIGNED.withOrder(ByteOrder.LITTLE_ENDIAN);
    private static final ValueLayout.OfInt LITTLE_INT =
            ValueLayout.JAVA_INT_UNALIGNED.withOrder(ByteOrder.LITTLE_ENDIAN);
    private static final ValueLayout.OfInt BIG_INT = ValueLayout.JAVA_INT_UNALIGNED.withOrder(ByteOrder.BIG_ENDIAN);

    private final SampleEncoding encoding;
    private final MemorySegment stored;
    private final int channels;
    private final boolean little;
    /** Two channels of an encoding whose pairs are taken in one go. */
    private final boolean pairs;

    private final boolean unsigned;
    private final ValueLayout.OfShort shortLayout;
    private final ValueLayout.OfInt intLayout;
    private final ValueLayout.OfDouble doubleLayout;
    // Only those that the encoding needs have a length.
    private final float[] floats;
    private final short[] shorts;
    private final int[] ints;
    private final int[] rightInts;
    private final MemorySegment intsAsMemory;
    private final MemorySegment rightAsMemory;
    private final double[] doubles;
    private final long[] longs;
    private long nonFinite;

    SampleDecoder(PcmLayout layout, MemorySegment stored, int maxFrames) {
        this.stored = stored;
        encoding = layout.format().encoding();
        channels = layout.format().channels();
        little = layout.order() == ByteOrder.LITTLE_ENDIAN;
        unsigned = layout.unsigned();
        shortLayout = ValueLayout.JAVA_SHORT_UNALIGNED.withOrder(layout.order());
        intLayout = ValueLayout.JAVA_INT_UNALIGNED.withOrder(layout.order());
        doubleLayout = ValueLayout.JAVA_DOUBLE_UNALIGNED.withOrder(layout.order());
        int samples = maxFrames * channels;
        pairs = channels == 2 && little && (encoding == SampleEncoding.FLOAT_32 || encoding == SampleEncoding.PCM_24);
        floats = new float[channels == 1 || pairs ? 0 : samples];
        shorts = new short[encoding == SampleEncoding.PCM_16 ? samples : 0];
        ints = new int[encoding == SampleEncoding.PCM_16 || encoding == SampleEncoding.FLOAT_64 ? 0 : samples];
        rightInts = new int[pairs ? maxFrames : 0];
        intsAsMemory = MemorySegment.ofArray(ints);
        rightAsMemory = MemorySegment.ofArray(rightInts);
        doubles = new double[encoding == SampleEncoding.FLOAT_64 ? samples : 0];
        longs = new long[pairs ? CHUNK : 0];
    }

    /** Decodes consecutive frames into {@code planes[channel][at .. at + frames)}. */
    @Override
    public void read(long firstFrame, float[][] planes, int at, int frames) {
        if (channels == 1) {
            fill(firstFrame, planes[0], at, frames);
        } else if (pairs && encoding == SampleEncoding.FLOAT_32) {
            decodeFloatPairs(firstFrame, planes[0], planes[1], at, frames);
        } else if (pairs) {
            decode24Pairs(firstFrame, planes[0], planes[1], at, frames);
        } else {
            fill(firstFrame * channels, floats, 0, frames * channels);
            for (int c = 0; c < channels; c++) {
                takeApart(planes[c], c, at, frames);
            }
        }
    }

    private void takeApart(float[] plane, int channel, int at, int frames) {
        final int stride = channels;
        for (int i = 0; i < frames; i++) {
            plane[at + i] = floats[i * stride + channel];
        }
    }

    /** Takes pairs of floats as longs and these apart, in loops that are compiled to vector instructions. */
    private void decodeFloatPairs(long firstFrame, float[] left, float[] right, int at, int frames) {
        for (int done = 0; done < frames; done += CHUNK) {
            int part = Math.min(CHUNK, frames - done);
            MemorySegment.copy(stored, LITTLE_LONG, (firstFrame + done) * Long.BYTES, longs, 0, part);
            for (int i = 0; i < part; i++) {
                ints[i] = (int) longs[i];
            }
            for (int i = 0; i < part; i++) {
                rightInts[i] = (int) (longs[i] >>> 32);
            }
            toFloats(ints, intsAsMemory, left, at + done, part);
            toFloats(rightInts, rightAsMemory, right, at + done, part);
        }
    }

    /** Takes the six bytes of each pair out of eight; only the file's last pairs have no eight bytes left. */
    private void decode24Pairs(long firstFrame, float[] left, float[] right, int at, int frames) {
        long offset = firstFrame * 6;
        // Rounded down, also where fewer than eight bytes are left: then no pair has them.
        int whole = Math.clamp(Math.floorDiv(stored.byteSize() - offset - Long.BYTES, 6) + 1, 0, frames);
        for (int i = 0; i < whole; i++) {
            long pair = stored.get(LITTLE_LONG, offset + 6L * i);
            ints[i] = (int) pair << 8;
            rightInts[i] = (int) (pair >>> 16) & 0xFFFF_FF00;
        }
        for (int i = whole; i < frames; i++) {
            ints[i] = threeBytes(offset + 6L * i);
            rightInts[i] = threeBytes(offset + 6L * i + 3);
        }
        scale(ints, left, at, frames);
        scale(rightInts, right, at, frames);
    }

    /** A sample of three bytes as the upper three of an integer. */
    private int threeBytes(long place) {
        int first = Byte.toUnsignedInt(stored.get(ValueLayout.JAVA_BYTE, place));
        int middle = Byte.toUnsignedInt(stored.get(ValueLayout.JAVA_BYTE, place + 1));
        int third = Byte.toUnsignedInt(stored.get(ValueLayout.JAVA_BYTE, place + 2));
        return little ? third << 24 | middle << 16 | first << 8 : first << 24 | middle << 16 | third << 8;
    }

    /**
     * Turns the bits of floats into floats, non-finite ones into 0: one NaN would silence every bus below it for good.
     * Loops over ints are compiled to vector instructions where the same loops over floats are not, which makes this
     * several times as fast as it would be without the detour; the copy between the arrays is a move of memory.
     */
    private void toFloats(int[] bits, MemorySegment sameBits, float[] out, int at, int count) {
        int largest = 0;
        for (int i = 0; i < count; i++) {
            largest = Math.max(largest, bits[i] & 0x7FFF_FFFF);
        }
        MemorySegment.copy(sameBits, ValueLayout.JAVA_FLOAT, 0, out, at, count);
        if (largest >= INFINITE_BITS) {
            silenceNonFinite(out, at, count);
        }
    }

    /** Decodes consecutive samples as they lie in the file. */
    private void fill(long first, float[] out, int at, int count) {
        long offset = first * encoding.bytes();
        switch (encoding) {
            case PCM_8 -> {
                int flip = unsigned ? 0x80 : 0;
                for (int i = 0; i < count; i++) {
                    ints[i] = (stored.get(ValueLayout.JAVA_BYTE, offset + i) ^ flip) << 24;
                }
                scale(ints, out, at, count);
            }
            case PCM_16 -> {
                MemorySegment.copy(stored, shortLayout, offset, shorts, 0, count);
                for (int i = 0; i < count; i++) {
                    out[at + i] = shorts[i] * 0x1p-15f;
                }
            }
            case PCM_24 -> {
                if (count > 0) {
                    fill24(offset, count);
                    scale(ints, out, at, count);
                }
            }
            case PCM_32 -> {
                MemorySegment.copy(stored, intLayout, offset, ints, 0, count);
                scale(ints, out, at, count);
            }
            case FLOAT_32 -> {
                MemorySegment.copy(stored, intLayout, offset, ints, 0, count);
                toFloats(ints, intsAsMemory, out, at, count);
            }
            case FLOAT_64 -> {
                MemorySegment.copy(stored, doubleLayout, offset, doubles, 0, count);
                for (int i = 0; i < count; i++) {
                    out[at + i] = (float) doubles[i];
                }
                silenceNonFinite(out, at, count);
            }
        }
    }

    /** Each sample but the last is three bytes of the four from its place on. */
    private void fill24(long offset, int count) {
        int last = count - 1;
        if (little) {
            for (int i = 0; i < last; i++) {
                ints[i] = stored.get(LITTLE_INT, offset + 3L * i) << 8;
            }
        } else {
            for (int i = 0; i < last; i++) {
                ints[i] = stored.get(BIG_INT, offset + 3L * i) & 0xFFFF_FF00;
            }
        }
        ints[last] = threeBytes(offset + 3L * last);
    }

    /** Integers to floats apart from decoding them, because this loop is compiled to vector instructions. */
    private static void scale(int[] values, float[] out, int at, int count) {
        for (int i = 0; i < count; i++) {
            out[at + i] = values[i] * 0x1p-31f;
        }
    }

    private void silenceNonFinite(float[] out, int at, int count) {
        for (int i = at, end = at + count; i < end; i++) {
            if (!Float.isFinite(out[i])) {
                out[i] = 0;
                nonFinite++;
            }
        }
    }

    @Override
    public long nonFiniteSamples() {
        return nonFinite;
    }
}
