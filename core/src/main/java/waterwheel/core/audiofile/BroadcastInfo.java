package waterwheel.core.audiofile;

import java.nio.ByteBuffer;
import java.nio.ByteOrder;
import java.nio.charset.StandardCharsets;

/**
 * What a Broadcast Wave file says of itself (EBU Tech 3285, version 2). Date and time are left empty, so that the same
 * render gives the same bytes; the loudness fields are marked as not used, since they would have to be known before the
 * file is.
 *
 * @param description at most 256 characters of it are kept
 * @param originator who made the file, at most 32 characters
 * @param timeReference the file's first frame, counted from the origin of the song's line
 */
public record BroadcastInfo(String description, String originator, long timeReference) {
    private static final int DESCRIPTION_BYTES = 256;
    private static final int ORIGINATOR_BYTES = 32;
    private static final int REFERENCE_BYTES = 32;
    private static final int DATE_TIME_BYTES = 18;
    private static final int UMID_BYTES = 64;
    private static final int LOUDNESS_FIELDS = 5;
    private static final int RESERVED_BYTES = 180;
    private static final short NOT_USED = 0x7FFF;

    /** The chunk's content, an even number of bytes. */
    byte[] chunk(int sampleRateHz, int channels, SampleEncoding encoding) {
        String history = "A=" + (encoding.fixedPoint() ? "PCM" : "FLOAT") + ",F=" + sampleRateHz + ",W="
                + encoding.bytes() * 8 + ",M=" + mode(channels) + ",T=" + originator + "\r\n";
        byte[] coding = history.getBytes(StandardCharsets.US_ASCII);
        int fixed = DESCRIPTION_BYTES
                + ORIGINATOR_BYTES
                + REFERENCE_BYTES
                + DATE_TIME_BYTES
                + Long.BYTES
                + Short.BYTES
                + UMID_BYTES
                + LOUDNESS_FIELDS * Short.BYTES
                + RESERVED_BYTES;
        ByteBuffer out = ByteBuffer.allocate((fixed + coding.length + 1) & ~1).order(ByteOrder.LITTLE_ENDIAN);
        put(out, description, DESCRIPTION_BYTES);
        put(out, originator, ORIGINATOR_BYTES);
        out.position(out.position() + REFERENCE_BYTES + DATE_TIME_BYTES);
        out.putLong(timeReference);
        out.putShort((short) 2);
        out.position(out.position() + UMID_BYTES);
        for (int i = 0; i < LOUDNESS_FIELDS; i++) {
            out.putShort(NOT_USED);
        }
        out.position(out.position() + RESERVED_BYTES);
        out.put(coding);
        return out.array();
    }

    /** Text of a fixed width, filled with zeros; what is not ASCII becomes a question mark. */
    private static void put(ByteBuffer out, String text, int width) {
        byte[] bytes = text.getBytes(StandardCharsets.US_ASCII);
        int end = out.position() + width;
        out.put(bytes, 0, Math.min(bytes.length, width));
        out.position(end);
    }

    /** The words of EBU R 98. */
    private static String mode(int channels) {
        return switch (channels) {
            case 1 -> "mono";
            case 2 -> "stereo";
            default -> "multitrack";
        };
    }
}
