package waterwheel.core.playback;

import waterwheel.core.errors.DeviceException;

/** Where played audio goes. One thread at a time. */
public interface AudioPort extends AutoCloseable {
    /** The name on screen. */
    String name();

    /** Whether nothing can be heard through it. */
    boolean silent();

    /**
     * Makes the port ready.
     *
     * @param maxFrames the largest block that will be written
     * @throws DeviceException if the device refuses the rate or is in use
     */
    void open(int sampleRateHz, int maxFrames) throws DeviceException;

    /**
     * Takes a block and returns when there is room for the next: the port is the clock. Samples beyond ±1.0 are held
     * at the limit here and nowhere before.
     *
     * @param left full scale ±1.0, {@code [0 .. frames)}
     * @param right likewise
     */
    void write(float[] left, float[] right, int frames);

    @Override
    void close();
}
