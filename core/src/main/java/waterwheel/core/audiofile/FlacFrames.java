package waterwheel.core.audiofile;

import java.io.IOException;
import java.lang.foreign.MemorySegment;
import java.lang.foreign.ValueLayout;
import java.util.Arrays;

/**
 * Decodes the frames of a FLAC stream one after the other (RFC 9639, section 9). Every frame must bear the number after
 * the one before, and both of its checksums must hold, so that reading ends whatever a file holds. One thread at a time.
 */
final class FlacFrames {
    /** The least that a frame can be: header, one constant subframe a channel, checksum. */
    private static final int LEAST_FRAME_BYTES = 8;

    private static final int MOST_CHANNELS = 8;
    private static final int MOST_BLOCK = 65_535;
    private static final int LEFT_SIDE = 8;
    private static final int SIDE_RIGHT = 9;
    private static final int MID_SIDE = 10;
    private static final int[][] FIXED = {{}, {1}, {2, -1}, {3, -3, 1}, {4, -6, 4, -1}};
    private static final int[] SAMPLE_BITS = {0, 8, 12, -1, 16, 20, 24, 32};
    private static final int[] CRC_8 = table(Byte.SIZE, 0x07);
    private static final int[] CRC_16 = table(Short.SIZE, 0x8005);

    private final MemorySegment file;
    private final int channels;
    private final int sampleBits;
    private final FlacBits bits;
    private final int[][] samples;
    private final int[] coefficients = new int[32];
    private long nextNumber = -1;
    private int frames;

    /**
     * Makes a decoder.
     *
     * @param firstByte where the first frame stands
     * @param channels that every frame must have
     * @param sampleBits that every frame must have, at most 24
     */
    FlacFrames(MemorySegment file, long firstByte, int channels, int sampleBits) {
        this.file = file;
        this.channels = channels;
        this.sampleBits = sampleBits;
        bits = new FlacBits(file, firstByte);
        samples = new int[channels][MOST_BLOCK + 1];
    }

    /** Where the next frame stands. */
    long bytePosition() {
        return bits.bytePosition();
    }

    /** Whether a frame seems to stand here: its 15 fixed bits do. */
    boolean atFrame() {
        long at = bytePosition();
        return at + LEAST_FRAME_BYTES <= file.byteSize() && byteAt(at) == 0xFF && (byteAt(at + 1) & 0xFE) == 0xF8;
    }

    /** The decoded block, {@code [channel][0 .. frames)}; overwritten by the next. */
    int[][] samples() {
        return samples;
    }

    /** Frames of the decoded block. */
    int frames() {
        return frames;
    }

    /**
     * Decodes the next frame.
     *
     * @throws IOException if it is damaged, out of order, or of another form than the stream's
     */
    void next() throws IOException {
        long start = bytePosition();
        expect(bits.unsigned(15) == 0x7FFC, "no frame");
        boolean bySample = bits.unsigned(1) == 1;
        int blockCode = (int) bits.unsigned(4);
        int rateCode = (int) bits.unsigned(4);
        int assignment = (int) bits.unsigned(4);
        int bitsCode = (int) bits.unsigned(3);
        expect(bits.unsigned(1) == 0 && blockCode != 0 && rateCode != 15, "a reserved code");
        expect(assignment <= MID_SIDE, "a reserved channel assignment");
        expect((assignment < MOST_CHANNELS ? assignment + 1 : 2) == channels, "another number of channels");
        expect(bitsCode == 0 || SAMPLE_BITS[bitsCode] == sampleBits, "another number of bits");
        long number = codedNumber();
        frames = blockSize(blockCode);
        bits.unsigned(rateCode == 12 ? 8 : rateCode > 12 ? 16 : 0);
        expect(bits.unsigned(8) == crc(CRC_8, Byte.SIZE, start, bytePosition() - 1), "a damaged header");
        expect(nextNumber < 0 || number == nextNumber, "a frame out of order");
        nextNumber = number + (bySample ? frames : 1);
        for (int c = 0; c < channels; c++) {
            boolean side = assignment == SIDE_RIGHT ? c == 0 : assignment >= MOST_CHANNELS && c == 1;
            subframe(samples[c], side ? sampleBits + 1 : sampleBits);
        }
        bits.align();
        int sum = crc(CRC_16, Short.SIZE, start, bytePosition());
        expect(bits.unsigned(16) == sum, "a damaged frame");
        join(assignment);
    }

    private int blockSize(int code) throws IOException {
        return switch (code) {
            case 1 -> 192;
            case 2, 3, 4, 5 -> 576 << (code - 2);
            case 6 -> (int) bits.unsigned(8) + 1;
            case 7 -> (int) bits.unsigned(16) + 1;
            default -> 256 << (code - 8);
        };
    }

    /** A number of up to 36 bits, in as many bytes as its first one says by its leading ones. */
    private long codedNumber() throws IOException {
        int first = (int) bits.unsigned(8);
        int ones = Integer.numberOfLeadingZeros(~(first << 24));
        expect(ones != 1 && ones < 8, "a damaged number");
        long value = ones == 0 ? first : first & (0x7F >> ones);
        for (int i = 1; i < ones; i++) {
            int more = (int) bits.unsigned(8);
            expect(more >> 6 == 2, "a damaged number");
            value = (value << 6) | (more & 0x3F);
        }
        return value;
    }

    private void subframe(int[] out, int depth) throws IOException {
        expect(bits.unsigned(1) == 0, "a damaged subframe");
        int type = (int) bits.unsigned(6);
        int wasted = bits.unsigned(1) == 1 ? bits.unary() + 1 : 0;
        int held = depth - wasted;
        expect(held > 0, "a damaged subframe");
        if (type == 0) {
            Arrays.fill(out, 0, frames, bits.signed(held));
        } else if (type == 1) {
            warmUp(out, frames, held);
        } else if (type >= 8 && type <= 12) {
            int order = type - 8;
            warmUp(out, order, held);
            System.arraycopy(FIXED[order], 0, coefficients, 0, order);
            residual(out, order);
            predict(out, order, 0);
        } else if (type >= 32) {
            int order = type - 31;
            warmUp(out, order, held);
            int precision = (int) bits.unsigned(4) + 1;
            int shift = bits.signed(5);
            expect(precision < 16 && shift >= 0, "a damaged predictor");
            for (int i = 0; i < order; i++) {
                coefficients[i] = bits.signed(precision);
            }
            residual(out, order);
            predict(out, order, shift);
        } else {
            throw new IOException("a reserved subframe");
        }
        for (int i = 0; wasted > 0 && i < frames; i++) {
            out[i] <<= wasted;
        }
    }

    private void warmUp(int[] out, int count, int depth) throws IOException {
        expect(count <= frames, "a predictor longer than its block");
        for (int i = 0; i < count; i++) {
            out[i] = bits.signed(depth);
        }
    }

    private void residual(int[] out, int order) throws IOException {
        int method = (int) bits.unsigned(2);
        expect(method < 2, "a reserved coding");
        int parameterBits = method == 0 ? 4 : 5;
        int escape = method == 0 ? 15 : 31;
        int partitionOrder = (int) bits.unsigned(4);
        int length = frames >> partitionOrder;
        expect(length << partitionOrder == frames && length >= order, "a damaged division");
        int at = order;
        for (int end = length; end <= frames; end += length) {
            int parameter = (int) bits.unsigned(parameterBits);
            if (parameter == escape) {
                int depth = (int) bits.unsigned(5);
                for (; at < end; at++) {
                    out[at] = bits.signed(depth);
                }
            } else {
                for (; at < end; at++) {
                    int folded = (bits.unary() << parameter) | (int) bits.unsigned(parameter);
                    out[at] = (folded >>> 1) ^ -(folded & 1);
                }
            }
        }
    }

    private void predict(int[] out, int order, int shift) {
        for (int i = order; i < frames; i++) {
            long sum = 0;
            for (int k = 0; k < order; k++) {
                sum += (long) coefficients[k] * out[i - 1 - k];
            }
            out[i] += (int) (sum >> shift);
        }
    }

    /** Left and right out of what the encoder stored in their place. */
    private void join(int assignment) {
        for (int i = 0; i < frames; i++) {
            switch (assignment) {
                case LEFT_SIDE -> samples[1][i] = samples[0][i] - samples[1][i];
                case SIDE_RIGHT -> samples[0][i] += samples[1][i];
                case MID_SIDE -> {
                    int side = samples[1][i];
                    int twice = (samples[0][i] << 1) | (side & 1);
                    samples[0][i] = (twice + side) >> 1;
                    samples[1][i] = (twice - side) >> 1;
                }
                default -> {
                    return;
                }
            }
        }
    }

    private int byteAt(long place) {
        return Byte.toUnsignedInt(file.get(ValueLayout.JAVA_BYTE, place));
    }

    private int crc(int[] table, int width, long from, long to) {
        int sum = 0;
        int mask = (1 << width) - 1;
        for (long i = from; i < to; i++) {
            sum = ((sum << Byte.SIZE) ^ table[(sum >> (width - Byte.SIZE)) ^ byteAt(i)]) & mask;
        }
        return sum;
    }

    private static int[] table(int width, int polynomial) {
        int[] table = new int[256];
        for (int i = 0; i < table.length; i++) {
            int value = i << (width - Byte.SIZE);
            for (int b = 0; b < Byte.SIZE; b++) {
                value = (value << 1) ^ (((value >> (width - 1)) & 1) * polynomial);
            }
            table[i] = value & ((1 << width) - 1);
        }
        return table;
    }

    private static void expect(boolean holds, String otherwise) throws IOException {
        if (!holds) {
            throw new IOException(otherwise);
        }
    }
}
