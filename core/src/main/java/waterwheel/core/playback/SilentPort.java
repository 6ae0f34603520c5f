package waterwheel.core.playback;

import java.util.concurrent.locks.LockSupport;

/** A clock that takes audio at its pace and lets nobody hear it. */
public final class SilentPort implements AudioPort {
    /** How far the clock lets audio run ahead, as a device's buffer would. */
    private static final long AHEAD_NANOS = 20_000_000;

    private int sampleRateHz = 48_000;
    private long due;

    @Override
    public String name() {
        return "Silent clock";
    }

    @Override
    public boolean silent() {
        return true;
    }

    @Override
    public void open(int rate, int maxFrames) {
        sampleRateHz = rate;
    }

    @Override
    public void write(float[] left, float[] right, int frames) {
        long now = System.nanoTime();
        // After a pause the clock starts anew rather than racing to catch up.
        due = Math.max(due, now - AHEAD_NANOS) + frames * 1_000_000_000L / sampleRateHz;
        while (due - System.nanoTime() > AHEAD_NANOS) {
            LockSupport.parkNanos(due - System.nanoTime() - AHEAD_NANOS);
            if (Thread.currentThread().isInterrupted()) {
                return;
            }
        }
    }

    @Override
    public void close() {}
}
