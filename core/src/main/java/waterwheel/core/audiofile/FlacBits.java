package waterwheel.core.audiofile;

import java.io.EOFException;
import java.lang.foreign.MemorySegment;
import java.lang.foreign.ValueLayout;
import java.nio.ByteOrder;

/** Bits of a mapped file, the highest of each byte first, as FLAC streams store them (RFC 9639, section 5). */
final class FlacBits {
    private static final ValueLayout.OfLong BIG_LONG = ValueLayout.JAVA_LONG_UNALIGNED.withOrder(ByteOrder.BIG_ENDIAN);
    /** So many bits are sure to lie in one 64-bit word, whichever bit of a byte they begin at. */
    private static final int SURE_BITS = 57;

    private final MemorySegment file;
    private final long bits;
    private long at;

    /** @param firstByte where reading begins */
    FlacBits(MemorySegment file, long firstByte) {
        this.file = file;
        bits = file.byteSize() * Byte.SIZE;
        at = firstByte * Byte.SIZE;
    }

    /** The byte that holds the next bit. */
    long bytePosition() {
        return at / Byte.SIZE;
    }

    /** Goes on at the beginning of a byte; what is left of the present one is padding. */
    void align() {
        at = Math.ceilDiv(at, Byte.SIZE) * Byte.SIZE;
    }

    /** The next 57 bits or more from the highest bit on; zeros behind the file's end. */
    private long word() {
        long place = at / Byte.SIZE;
        int used = (int) (at % Byte.SIZE);
        if (place + Long.BYTES <= file.byteSize()) {
            return file.get(BIG_LONG, place) << used;
        }
        long value = 0;
        for (int i = 0; i < Long.BYTES; i++) {
            int one = place + i < file.byteSize() ? Byte.toUnsignedInt(file.get(ValueLayout.JAVA_BYTE, place + i)) : 0;
            value = (value << Byte.SIZE) | one;
        }
        return value << used;
    }

    private void advance(long count) throws EOFException {
        at += count;
        if (at > bits) {
            throw new EOFException("the file ends within a frame");
        }
    }

    /** An unsigned number of up to 32 bits. */
    long unsigned(int count) throws EOFException {
        if (count == 0) {
            return 0;
        }
        long value = word() >>> (Long.SIZE - count);
        advance(count);
        return value;
    }

    /** A number in two's complement of up to 32 bits. */
    int signed(int count) throws EOFException {
        if (count == 0) {
            return 0;
        }
        int value = (int) (word() >> (Long.SIZE - count));
        advance(count);
        return value;
    }

    /** How many zeros stand before the next one; both are consumed. */
    int unary() throws EOFException {
        long zeros = 0;
        while (true) {
            int found = Math.min(Long.numberOfLeadingZeros(word()), SURE_BITS);
            if (found < SURE_BITS) {
                advance(found + 1L);
                return Math.toIntExact(zeros + found);
            }
            advance(SURE_BITS);
            zeros += SURE_BITS;
        }
    }
}
