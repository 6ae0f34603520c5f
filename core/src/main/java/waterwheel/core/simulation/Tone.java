package waterwheel.core.simulation;

import java.util.List;
import waterwheel.core.processing.Biquad;
import waterwheel.core.rack.Knob;

/** Second-order filters, one after the other (transposed direct form II). */
final class Tone implements PartSound {
    private static final double BUTTERWORTH = Math.sqrt(0.5);

    private final double[] c;
    private final double[] memory;

    Tone(UnitPart part, List<Knob> knobs, int rate) {
        c = new double[(part.kind() == UnitPart.Kind.BAND ? 2 : 1) * Biquad.SIZE];
        memory = new double[c.length / Biquad.SIZE * 2];
        switch (part.kind()) {
            case BAND -> {
                Biquad.highPass(c, 0, part.value("lowHz", knobs), BUTTERWORTH, rate);
                Biquad.lowPass(c, Biquad.SIZE, part.value("highHz", knobs), BUTTERWORTH, rate);
            }
            case BELL ->
                Biquad.bell(c, 0, part.value("hz", knobs), part.value("q", knobs), part.value("db", knobs), rate);
            case LOW_SHELF -> Biquad.lowShelf(c, 0, part.value("hz", knobs), part.value("db", knobs), rate);
            case HIGH_SHELF -> Biquad.highShelf(c, 0, part.value("hz", knobs), part.value("db", knobs), rate);
            case GAIN, LEVELLER, DRIVE, SPRINGS ->
                throw new IllegalArgumentException("part: " + part.kind() + " (expected: a filter)");
        }
    }

    @Override
    public double next(double in) {
        double x = in;
        for (int f = 0; f < memory.length; f += 2) {
            int at = f / 2 * Biquad.SIZE;
            double y = c[at] * x + memory[f];
            memory[f] = c[at + 1] * x - c[at + 3] * y + memory[f + 1];
            memory[f + 1] = c[at + 2] * x - c[at + 4] * y;
            x = y;
        }
        return x;
    }
}
