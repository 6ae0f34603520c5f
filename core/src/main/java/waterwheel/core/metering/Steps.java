package waterwheel.core.metering;

/**
 * Division of a signal into 10 ms steps. Step i covers the frames from {@code i rate / 100} (rounded down) to the next
 * step's first frame, so that rates that are no multiple of 100 Hz do not drift.
 */
public final class Steps {
    public static final int PER_SECOND = 100;

    private Steps() {}

    /** First frame of a step. */
    public static long firstFrame(long step, int sampleRateHz) {
        return step * sampleRateHz / PER_SECOND;
    }

    /** How many steps begin before the given length in frames; the last one may be incomplete. */
    public static int count(long frames, int sampleRateHz) {
        int steps = Math.toIntExact(frames * PER_SECOND / sampleRateHz);
        return firstFrame(steps, sampleRateHz) < frames ? steps + 1 : steps;
    }

    /** How many steps are complete within the given length in frames. */
    public static int complete(long frames, int sampleRateHz) {
        int steps = count(frames, sampleRateHz);
        return firstFrame(steps, sampleRateHz) > frames ? steps - 1 : steps;
    }
}
