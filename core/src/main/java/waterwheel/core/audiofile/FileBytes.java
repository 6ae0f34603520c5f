package waterwheel.core.audiofile;

import java.lang.foreign.MemorySegment;
import java.lang.foreign.ValueLayout;
import java.nio.ByteOrder;
import java.nio.charset.StandardCharsets;

/** Bytes of a mapped file in one byte order; a place outside the file is asked for by {@link #holds} first. */
record FileBytes(MemorySegment memory, ByteOrder order) {
    long size() {
        return memory.byteSize();
    }

    boolean holds(long at, long bytes) {
        return at >= 0 && bytes >= 0 && at <= size() - bytes;
    }

    FileBytes part(long at, long bytes) {
        return new FileBytes(memory.asSlice(at, bytes), order);
    }

    int unsignedByte(long at) {
        return Byte.toUnsignedInt(memory.get(ValueLayout.JAVA_BYTE, at));
    }

    int unsignedShort(long at) {
        return Short.toUnsignedInt(memory.get(ValueLayout.JAVA_SHORT_UNALIGNED.withOrder(order), at));
    }

    int signedInt(long at) {
        return memory.get(ValueLayout.JAVA_INT_UNALIGNED.withOrder(order), at);
    }

    long unsignedInt(long at) {
        return Integer.toUnsignedLong(signedInt(at));
    }

    long signedLong(long at) {
        return memory.get(ValueLayout.JAVA_LONG_UNALIGNED.withOrder(order), at);
    }

    /** Four bytes as the name of a chunk. */
    String id(long at) {
        byte[] bytes = memory.asSlice(at, 4).toArray(ValueLayout.JAVA_BYTE);
        return new String(bytes, StandardCharsets.ISO_8859_1);
    }

    /** Whether four bytes can be the name of a chunk: printable characters all. */
    boolean looksLikeId(long at) {
        return holds(at, 4) && id(at).chars().allMatch(c -> c >= 0x20 && c < 0x7F);
    }
}
