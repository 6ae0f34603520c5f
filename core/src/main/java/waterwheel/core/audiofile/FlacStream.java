package waterwheel.core.audiofile;

import java.io.IOException;
import java.lang.foreign.MemorySegment;
import java.lang.foreign.ValueLayout;
import java.nio.ByteOrder;
import java.nio.charset.StandardCharsets;
import java.util.ArrayList;
import java.util.HexFormat;
import java.util.List;
import java.util.Locale;

/**
 * What the metadata of a FLAC stream say (RFC 9639, section 8), found behind whatever tag of another kind a program put
 * before it.
 *
 * @param frames that the stream states; 0 where its encoder did not know them
 * @param digest MD5 of the samples in hexadecimal digits; all zeros where the encoder made none
 * @param comments as {@code NAME=value}
 * @param audioAt where the first frame of the audio stands, in bytes
 */
record FlacStream(
        int sampleRateHz,
        int channels,
        int sampleBits,
        long frames,
        String digest,
        List<String> comments,
        long audioAt) {
    private static final String MARK = "fLaC";
    private static final int BLOCK_HEADER_BYTES = 4;
    private static final int STREAM_INFO_BYTES = 34;
    private static final int LAST_BLOCK = 0x80;
    private static final int COMMENTS = 4;
    private static final String CHANNEL_MASK = "WAVEFORMATEXTENSIBLE_CHANNEL_MASK=";
    /** A tag in front: three letters, version and flags, then its length in four times seven bits. */
    private static final int TAG_HEADER_BYTES = 10;

    private static final int TAG_HAS_FOOTER = 0x10;

    /** Where the stream begins; -1 where there is none. */
    static long start(MemorySegment file) {
        FileBytes bytes = new FileBytes(file, ByteOrder.BIG_ENDIAN);
        long at = 0;
        while (bytes.holds(at, TAG_HEADER_BYTES) && bytes.id(at).startsWith("ID3")) {
            long length = 0;
            for (int i = 6; i < TAG_HEADER_BYTES; i++) {
                length = (length << 7) | (bytes.unsignedByte(at + i) & 0x7F);
            }
            boolean footer = (bytes.unsignedByte(at + 5) & TAG_HAS_FOOTER) != 0;
            at += TAG_HEADER_BYTES + length + (footer ? TAG_HEADER_BYTES : 0);
        }
        return bytes.holds(at, MARK.length()) && bytes.id(at).equals(MARK) ? at : -1;
    }

    /**
     * Reads the metadata of a stream.
     *
     * @param start of the stream in the file
     * @throws IOException if they are damaged
     */
    static FlacStream of(MemorySegment file, long start) throws IOException {
        FileBytes bytes = new FileBytes(file, ByteOrder.BIG_ENDIAN);
        long at = start + MARK.length();
        long info = at + BLOCK_HEADER_BYTES;
        if (!bytes.holds(info, STREAM_INFO_BYTES) || (bytes.unsignedInt(at) & ~(1L << 31)) != STREAM_INFO_BYTES) {
            throw new IOException("no description of the audio first");
        }
        List<String> comments = new ArrayList<>();
        boolean last = false;
        while (!last) {
            if (!bytes.holds(at, BLOCK_HEADER_BYTES)) {
                throw new IOException("no audio after the metadata");
            }
            int type = bytes.unsignedByte(at);
            long length = bytes.unsignedInt(at) & 0xFF_FFFF;
            last = (type & LAST_BLOCK) != 0;
            at += BLOCK_HEADER_BYTES;
            if ((type & ~LAST_BLOCK) == COMMENTS && bytes.holds(at, length)) {
                comments.addAll(comments(new FileBytes(file.asSlice(at, length), ByteOrder.LITTLE_ENDIAN)));
            }
            at += length;
        }
        long packed = bytes.signedLong(info + 10);
        return new FlacStream(
                (int) (packed >>> 44),
                (int) ((packed >>> 41) & 7) + 1,
                (int) ((packed >>> 36) & 31) + 1,
                packed & ((1L << 36) - 1),
                HexFormat.of().formatHex(file.asSlice(info + 18, 16).toArray(ValueLayout.JAVA_BYTE)),
                comments,
                at);
    }

    /** The comments of a block, as far as they lie within it: first the encoder's name, then a list of fields. */
    private static List<String> comments(FileBytes block) {
        List<String> found = new ArrayList<>();
        long at = 0;
        if (block.holds(at, 4)) {
            at += 4 + block.unsignedInt(at) + 4;
        }
        while (block.holds(at, 4) && block.holds(at + 4, block.unsignedInt(at))) {
            long length = block.unsignedInt(at);
            byte[] text = block.memory().asSlice(at + 4, length).toArray(ValueLayout.JAVA_BYTE);
            found.add(new String(text, StandardCharsets.UTF_8));
            at += 4 + length;
        }
        return found;
    }

    /** The channel mask that a comment gives, as a WAV file has it; 0 where none does. */
    long channelMask() {
        for (String comment : comments) {
            if (comment.toUpperCase(Locale.ROOT).startsWith(CHANNEL_MASK)) {
                try {
                    return Long.decode(comment.substring(CHANNEL_MASK.length()).strip());
                } catch (NumberFormatException e) {
                    return 0;
                }
            }
        }
        return 0;
    }

    /** Whether the encoder left a sum of the samples. */
    boolean hasDigest() {
        return digest.chars().anyMatch(digit -> digit != '0');
    }
}
