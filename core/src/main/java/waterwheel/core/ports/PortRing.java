package waterwheel.core.ports;

import java.util.Arrays;
import java.util.concurrent.atomic.AtomicLong;

/**
 * Frames of several ports on their way from one thread to another: one writes, one reads, neither waits here. What does
 * not fit is not taken, what is not there is not given; both sides are told. Allocates nothing after construction.
 */
public final class PortRing {
    private final float[][] ports;
    private final int size;
    private final AtomicLong written = new AtomicLong();
    private final AtomicLong read = new AtomicLong();

    /** @param frames a power of two */
    public PortRing(int ports, int frames) {
        if (Integer.bitCount(frames) != 1) {
            throw new IllegalArgumentException("frames: " + frames + " (expected: a power of two)");
        }
        this.ports = new float[ports][frames];
        size = frames;
    }

    /** How many frames can be read. */
    public int available() {
        return (int) (written.getAcquire() - read.getAcquire());
    }

    /** How many frames can be written. */
    public int room() {
        return size - available();
    }

    /** Takes a sample of a port, some frames after the last that was passed on. By the writer. */
    public void put(int port, int ahead, float sample) {
        ports[port][(int) ((written.getPlain() + ahead) & (size - 1))] = sample;
    }

    /** Gives a sample of a port, some frames after the last that was let go. By the reader. */
    public float get(int port, int ahead) {
        return ports[port][(int) ((read.getPlain() + ahead) & (size - 1))];
    }

    /** Passes frames on to the reader. By the writer. */
    public void pass(int frames) {
        written.setRelease(written.getPlain() + frames);
    }

    /** Lets frames go. By the reader. */
    public void letGo(int frames) {
        read.setRelease(read.getPlain() + frames);
    }

    /** Empties the ring and fills it with silence of a length. While nobody reads or writes. */
    void silence(int frames) {
        for (float[] port : ports) {
            Arrays.fill(port, 0);
        }
        read.set(0);
        written.set(frames);
    }
}
