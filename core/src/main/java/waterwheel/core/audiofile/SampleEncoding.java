package waterwheel.core.audiofile;

import org.jspecify.annotations.Nullable;

/** How one sample is stored. */
public enum SampleEncoding {
    PCM_8("PCM 8-bit", 1, true),
    PCM_16("PCM 16-bit", 2, true),
    PCM_24("PCM 24-bit", 3, true),
    PCM_32("PCM 32-bit", 4, true),
    FLOAT_32("float 32-bit", 4, false),
    FLOAT_64("float 64-bit", 8, false);

    private final String label;
    private final int bytes;
    private final boolean fixedPoint;

    SampleEncoding(String label, int bytes, boolean fixedPoint) {
        this.label = label;
        this.bytes = bytes;
        this.fixedPoint = fixedPoint;
    }

    /** The fixed-point encoding whose samples have a number of bytes; null where there is none. */
    static @Nullable SampleEncoding pcm(int bytes) {
        return switch (bytes) {
            case 1 -> PCM_8;
            case 2 -> PCM_16;
            case 3 -> PCM_24;
            case 4 -> PCM_32;
            default -> null;
        };
    }

    /** The words on screen and in the session file. */
    public String label() {
        return label;
    }

    public int bytes() {
        return bytes;
    }

    /** Whether full scale is a wall: what was over it when the file was made is lost. */
    public boolean fixedPoint() {
        return fixedPoint;
    }

    /** Steps from 0 to full scale of a fixed-point encoding: 2^(bits - 1). */
    public double fullScaleSteps() {
        return Math.pow(2, bytes * 8 - 1);
    }
}
