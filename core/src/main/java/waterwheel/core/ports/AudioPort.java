package waterwheel.core.ports;

import waterwheel.core.errors.DeviceException;

/**
 * Where audio goes out and comes in. Each block is first read and then written; what is written comes back, by a cable
 * from an output to an input, always the same number of frames later. One thread at a time.
 */
public interface AudioPort extends AutoCloseable {
    /** The name on screen. */
    String name();

    /** Whether nothing can be heard through it. */
    boolean silent();

    /** Whether the device went away while it was open: then nothing comes in, and what is written goes nowhere, in time. */
    default boolean gone() {
        return false;
    }

    /** How many inputs it has once it is open. */
    default int inputs() {
        return 0;
    }

    /** How many outputs it has once it is open. */
    default int outputs() {
        return 2;
    }

    /**
     * How many frames later what is written comes back by a cable, as far as the port itself can tell; once it is open.
     * What it cannot tell, timing finds out.
     */
    default int roundTripFrames() {
        return 0;
    }

    /** How many frames after it was written something is heard, as far as the port itself can tell; once it is open. */
    default int heardLaterFrames() {
        return 0;
    }

    /**
     * Makes the port ready: what was written before is gone.
     *
     * @param maxFrames the largest block that will be read and written
     * @throws DeviceException if the device refuses the rate or is in use
     */
    void open(int sampleRateHz, int maxFrames) throws DeviceException;

    /**
     * Gives the frames that came in while the last ones went out.
     *
     * @param in {@code [input][0 .. frames)}, full scale ±1.0; inputs beyond those of the port are left as they are
     */
    default void read(float[][] in, int frames) {}

    /**
     * Takes a block and returns when there is room for the next. Samples beyond ±1.0 are held at the limit here and
     * nowhere before.
     *
     * @param out {@code [output][0 .. frames)}, full scale ±1.0; outputs beyond those of the port are not heard
     */
    void write(float[][] out, int frames);

    @Override
    void close();
}
