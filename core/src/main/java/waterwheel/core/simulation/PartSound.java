package waterwheel.core.simulation;

import java.util.List;
import waterwheel.core.rack.Knob;

/** A part of a unit at work on one channel; a sine of 0 dBu has a peak of 1. One thread at a time. */
interface PartSound {
    double next(double in);

    /** Starts a part with the knobs as they stand. */
    static PartSound start(UnitPart part, List<Knob> knobs, int rate) {
        return switch (part.kind()) {
            case GAIN -> {
                double gain = factor(part.value("db", knobs));
                yield in -> gain * in;
            }
            case LEVELLER ->
                new Leveller(
                        part.value("thresholdDbu", knobs),
                        part.value("ratio", knobs),
                        part.value("attackMs", knobs),
                        part.value("releaseMs", knobs),
                        rate);
            case DRIVE -> {
                double drive = factor(part.value("driveDb", knobs));
                double ceiling = factor(part.value("ceilingDbu", knobs));
                // Bent more on one side than on the other, as by a single transistor.
                yield in -> ceiling * (Math.tanh(drive * in / ceiling + 0.2) - Math.tanh(0.2));
            }
            case BAND, BELL, LOW_SHELF, HIGH_SHELF -> new Tone(part, knobs, rate);
            case SPRINGS -> new Springs(part.value("seconds", knobs), part.value("mix", knobs), rate);
        };
    }

    static double factor(double db) {
        return Math.pow(10, db / 20);
    }
}
