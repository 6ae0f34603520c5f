package waterwheel.core.audiofile;

import java.lang.foreign.MemorySegment;
import java.lang.foreign.ValueLayout;
import java.nio.ByteOrder;

/**
 * Turns stored interleaved samples into planar floats. The way of each encoding (a copy into an array first, or
 * straight from memory) is the one that measured fastest. A thread's first block makes room to work in; after that
 * nothing is allocated. One thread at a time.
 */
final class SampleDecoder implements AudioFile.Reader {
    private static final int INFINITE_BITS = 0x7F80_0000;
    /** Samples that are taken apart while they are in the nearest cache. */
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
    private long nonFinite;

    /** Where samples are taken apart: each thread's own for all files, so that it stays near the processor. */
    private static final class Room {
        private static final ThreadLocal<Room> OF_THREAD = ThreadLocal.withInitial(Room::new);

        final float[] floats = new float[CHUNK];
        final short[] shorts = new short[CHUNK];
        final int[] ints = new int[CHUNK];
        final int[] rightInts = new int[CHUNK];
        final MemorySegment intsAsMemory = MemorySegment.ofArray(ints);
        final MemorySegment rightAsMemory = MemorySegment.ofArray(rightInts);
        final double[] doubles = new double[CHUNK];
        final long[] longs = new long[CHUNK];
    }

    SampleDecoder(PcmLayout layout, MemorySegment stored) {
        this.stored = stored;
        encoding = layout.format().encoding();
        channels = layout.format().channels();
        little = layout.order() == ByteOrder.LITTLE_ENDIAN;
        unsigned = layout.unsigned();
        shortLayout = ValueLayout.JAVA_SHORT_UNALIGNED.withOrder(layout.order());
        intLayout = ValueLayout.JAVA_INT_UNALIGNED.withOrder(layout.order());
        doubleLayout = ValueLayout.JAVA_DOUBLE_UNALIGNED.withOrder(layout.order());
        pairs = channels == 2 && little && (encoding == SampleEncoding.FLOAT_32 || encoding == SampleEncoding.PCM_24);
    }

    /** Decodes consecutive frames into {@code planes[channel][at .. at + frames)}. */
    @Override
    public void read(long firstFrame, float[][] planes, int at, int frames) {
        Room room = Room.OF_THREAD.get();
        int most = channels == 1 || pairs ? CHUNK : CHUNK / channels;
        for (int done = 0; done < frames; done += most) {
            read(room, firstFrame + done, planes, at + done, Math.min(most, frames - done));
        }
    }

    private void read(Room room, long firstFrame, float[][] planes, int at, int frames) {
        if (channels == 1) {
            fill(room, firstFrame, planes[0], at, frames);
        } else if (pairs && encoding == SampleEncoding.FLOAT_32) {
            decodeFloatPairs(room, firstFrame, planes[0], planes[1], at, frames);
        } else if (pairs) {
            decode24Pairs(room, firstFrame, planes[0], planes[1], at, frames);
        } else {
            fill(room, firstFrame * channels, room.floats, 0, frames * channels);
            for (int c = 0; c < channels; c++) {
                takeApart(room.floats, planes[c], c, at, frames);
            }
        }
    }

    private void takeApart(float[] floats, float[] plane, int channel, int at, int frames) {
        final int stride = channels;
        for (int i = 0; i < frames; i++) {
            plane[at + i] = floats[i * stride + channel];
        }
    }

    /** Takes pairs of floats as longs and these apart, in loops that are compiled to vector instructions. */
    private void decodeFloatPairs(Room room, long firstFrame, float[] left, float[] right, int at, int frames) {
        final long[] longs = room.longs;
        final int[] ints = room.ints;
        final int[] rightInts = room.rightInts;
        MemorySegment.copy(stored, LITTLE_LONG, firstFrame * Long.BYTES, longs, 0, frames);
        for (int i = 0; i < frames; i++) {
            ints[i] = (int) longs[i];
        }
        for (int i = 0; i < frames; i++) {
            rightInts[i] = (int) (longs[i] >>> 32);
        }
        toFloats(ints, room.intsAsMemory, left, at, frames);
        toFloats(rightInts, room.rightAsMemory, right, at, frames);
    }

    /** Takes the six bytes of each pair out of eight; only the file's last pairs have no eight bytes left. */
    private void decode24Pairs(Room room, long firstFrame, float[] left, float[] right, int at, int frames) {
        final int[] ints = room.ints;
        final int[] rightInts = room.rightInts;
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
    private void fill(Room room, long first, float[] out, int at, int count) {
        final int[] ints = room.ints;
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
                MemorySegment.copy(stored, shortLayout, offset, room.shorts, 0, count);
                for (int i = 0; i < count; i++) {
                    out[at + i] = room.shorts[i] * 0x1p-15f;
                }
            }
            case PCM_24 -> {
                if (count > 0) {
                    fill24(ints, offset, count);
                    scale(ints, out, at, count);
                }
            }
            case PCM_32 -> {
                MemorySegment.copy(stored, intLayout, offset, ints, 0, count);
                scale(ints, out, at, count);
            }
            case FLOAT_32 -> {
                MemorySegment.copy(stored, intLayout, offset, ints, 0, count);
                toFloats(ints, room.intsAsMemory, out, at, count);
            }
            case FLOAT_64 -> {
                MemorySegment.copy(stored, doubleLayout, offset, room.doubles, 0, count);
                for (int i = 0; i < count; i++) {
                    out[at + i] = (float) room.doubles[i];
                }
                silenceNonFinite(out, at, count);
            }
        }
    }

    /** Each sample but the last is three bytes of the four from its place on. */
    private void fill24(int[] ints, long offset, int count) {
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
