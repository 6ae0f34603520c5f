package waterwheel.core.rack;

import java.util.OptionalDouble;
import waterwheel.core.units.Ranges;

/**
 * What a loop was found to do to a signal.
 *
 * @param latencyFrames by how much what comes back is late, with its fraction
 * @param inverted whether it comes back with the other polarity
 * @param gainDb how much louder it comes back, between 200 Hz and 2 kHz
 * @param noiseDbfs what comes back of nothing, RMS as a sine's
 * @param humHz the mains' frequency where it hums, 50 or 60
 * @param humDbfs the loudest of the hum and its harmonics, where it hums
 * @param confidenceDb how far the answer stands out of what is not the answer
 * @param sampleRateHz under what it was found
 * @param blockFrames likewise
 * @param device likewise
 */
public record LoopTiming(
        double latencyFrames,
        boolean inverted,
        double gainDb,
        double noiseDbfs,
        OptionalDouble humHz,
        double humDbfs,
        double confidenceDb,
        int sampleRateHz,
        int blockFrames,
        String device) {
    /** Later than that, no loop is believed to be. */
    public static final double MOST_FRAMES = 1 << 17;

    public LoopTiming {
        latencyFrames = Ranges.checked("latencyFrames", latencyFrames, 0, MOST_FRAMES);
    }

    /** Whether it still holds for a device as it runs now. */
    public boolean holds(int rateHz, int block, String name) {
        return sampleRateHz == rateHz && blockFrames == block && device.equals(name);
    }
}
