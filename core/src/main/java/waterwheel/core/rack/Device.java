package waterwheel.core.rack;

/**
 * By what a session's audio goes in and out.
 *
 * @param name which of the system's devices; empty for the usual one
 * @param blockFrames how many frames go in and out at a time: fewer are heard sooner, and leave less time for each
 */
public record Device(Driver driver, String name, int blockFrames) {
    /** 5.3 ms at 48 kHz. */
    public static final int USUAL_BLOCK_FRAMES = 256;

    public static final int LEAST_BLOCK_FRAMES = 32;
    public static final int MOST_BLOCK_FRAMES = 4_096;

    public Device {
        if (blockFrames < LEAST_BLOCK_FRAMES || blockFrames > MOST_BLOCK_FRAMES) {
            throw new IllegalArgumentException("blockFrames: " + blockFrames + " (expected: " + LEAST_BLOCK_FRAMES
                    + " to " + MOST_BLOCK_FRAMES + ")");
        }
    }

    /** A driver's usual device, with blocks of the usual length. */
    public static Device usual(Driver driver) {
        return new Device(driver, "", USUAL_BLOCK_FRAMES);
    }

    /** Another driver's usual device, with blocks as long. */
    public Device withDriver(Driver value) {
        return new Device(value, value == driver ? name : "", blockFrames);
    }

    public Device withName(String value) {
        return new Device(driver, value, blockFrames);
    }

    public Device withBlockFrames(int value) {
        return new Device(driver, name, value);
    }
}
