package waterwheel.core.processing;

import java.util.Arrays;

/** One plane, later by a whole number of frames. One thread at a time. */
public final class DelayLine {
    private final int delay;
    private final float[] memory;

    /**
     * Makes a line that holds silence.
     *
     * @param delayFrames by how much it is late, 0 or more
     */
    public DelayLine(int delayFrames) {
        delay = delayFrames;
        memory = new float[delayFrames];
    }

    /** Takes the next frames and gives those that are due; the two arrays may not be the same. */
    public void process(float[] in, float[] out, int frames) {
        int remembered = Math.min(delay, frames);
        System.arraycopy(memory, 0, out, 0, remembered);
        System.arraycopy(in, 0, out, remembered, frames - remembered);
        System.arraycopy(memory, remembered, memory, 0, delay - remembered);
        System.arraycopy(in, frames - remembered, memory, delay - remembered, remembered);
    }

    public void reset() {
        Arrays.fill(memory, 0);
    }

    /** How much it remembers, in bytes. */
    public long memoryBytes() {
        return (long) delay * Float.BYTES;
    }

    /** A line that remembers the same, for others to {@link #adopt}. */
    public DelayLine copy() {
        DelayLine copy = new DelayLine(delay);
        copy.adopt(this);
        return copy;
    }

    /** Goes on from where another line of the same delay stands. */
    public void adopt(DelayLine other) {
        if (delay == other.delay) {
            System.arraycopy(other.memory, 0, memory, 0, delay);
        }
    }
}
