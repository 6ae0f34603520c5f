package waterwheel.core.simulation;

import java.util.List;
import java.util.SplittableRandom;
import waterwheel.core.processing.FineDelay;
import waterwheel.core.rack.Knob;

/**
 * One channel of a unit between two sockets of the interface, with what the converters take of time. One thread at a
 * time.
 */
final class SimulatedUnit {
    /** What the way out and the way in through the converters take together, in frames. */
    static final int CONVERTER_FRAMES = 64;

    private final List<PartSound> parts;
    private final FineDelay delay;
    private final double inputGain;
    private final double outputGain;
    private final double noise;
    private final double hum;
    private final double humStep;
    private final SplittableRandom random;
    private double phase;

    /**
     * Plugs a unit in.
     *
     * @param inputDb from full scale to the unit's input: a sine of 0 dBFS comes to so many dBu
     * @param outputDb from the unit's output to full scale: a sine of 0 dBu comes back as so many dBFS
     * @param lifted whether its ground is lifted
     * @param seed another for each channel, so that their noise is not the same
     */
    SimulatedUnit(
            UnitDescription unit,
            List<Knob> knobs,
            double inputDb,
            double outputDb,
            boolean lifted,
            int rate,
            int maxFrames,
            long seed) {
        parts = unit.parts().stream()
                .map(part -> PartSound.start(part, knobs, rate))
                .toList();
        double late = CONVERTER_FRAMES + unit.latencySeconds() * rate;
        delay = new FineDelay(late - FineDelay.latencyFrames(late), maxFrames);
        double sign = unit.inverted() ? -1 : 1;
        // Without a unit between there is one gain only, which is 1 where both ends are calibrated alike.
        boolean cable = parts.isEmpty();
        inputGain = cable ? 1 : PartSound.factor(inputDb);
        outputGain = sign * PartSound.factor(cable ? inputDb + outputDb : outputDb);
        // RMS as a sine's: a sine of that level has a peak of 1 and a square of a half.
        noise = PartSound.factor(unit.noiseDbu() + outputDb) * Math.sqrt(0.5);
        hum = lifted || unit.humHz().isEmpty() ? 0 : PartSound.factor(unit.humDbu() + outputDb);
        humStep = 2 * Math.PI * unit.humHz().orElse(0) / rate;
        random = new SplittableRandom(seed);
    }

    /** Takes what the output gives and makes of it what the input gets, in place. */
    void process(float[] signal, int frames) {
        for (int i = 0; i < frames; i++) {
            double x = inputGain * signal[i];
            for (int p = 0; p < parts.size(); p++) {
                x = parts.get(p).next(x);
            }
            signal[i] = (float) (outputGain * x);
        }
        delay.process(signal, frames);
        if (noise > 0) {
            for (int i = 0; i < frames; i++) {
                signal[i] += (float) (noise * random.nextGaussian());
            }
        }
        if (hum > 0) {
            for (int i = 0; i < frames; i++) {
                // The third harmonic is 10 dB below, as rectifiers make it.
                signal[i] += (float) (hum * (Math.sin(phase) + 0.316 * Math.sin(3 * phase)));
                phase += humStep;
            }
        }
    }
}
