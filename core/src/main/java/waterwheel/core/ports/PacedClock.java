package waterwheel.core.ports;

import java.util.concurrent.locks.LockSupport;

/** A clock that lets audio pass at its pace. One thread at a time; allocates nothing. */
public final class PacedClock {
    /** How far the clock lets audio run ahead, as a device's buffer would. */
    private static final long AHEAD_NANOS = 20_000_000;

    private final int sampleRateHz;
    private long due;

    public PacedClock(int sampleRateHz) {
        this.sampleRateHz = sampleRateHz;
    }

    /** Returns when there is room for the next frames. */
    public void pass(int frames) {
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
}
