package waterwheel.core.instruments;

import waterwheel.core.units.Bessel;

/**
 * Reads a sample between its frames: a sinc of 16 taps under a Kaiser window, from a table of 256 places with straight
 * lines between them (J. O. Smith, Digital Audio Resampling, 2002). One for each quarter of an octave that a sample is
 * played faster than recorded, with so much lower a cutoff.
 */
final class Kernel {
    static final int TAPS = 16;
    static final int PLACES = 256;

    private static final double BETA = 8;
    private static final int STEPS_PER_OCTAVE = 4;
    private static final int MOST_STEPS = 24;
    private static final Kernel[] KERNELS = new Kernel[MOST_STEPS + 1];

    /** By place {@link #TAPS} weights; one place more than there are, for the line from the last. */
    private final float[] weights = new float[(PLACES + 1) * TAPS];

    private Kernel(double cutoff) {
        double norm = Bessel.i0(BETA);
        for (int place = 0; place <= PLACES; place++) {
            double sum = 0;
            double[] row = new double[TAPS];
            for (int tap = 0; tap < TAPS; tap++) {
                double x = tap - (TAPS / 2 - 1) - (double) place / PLACES;
                double inside = 1 - (x / (TAPS / 2.0)) * (x / (TAPS / 2.0));
                double window = inside <= 0 ? 0 : Bessel.i0(BETA * Math.sqrt(inside)) / norm;
                double angle = Math.PI * x * cutoff;
                row[tap] = window * cutoff * (Math.abs(angle) < 1e-9 ? 1 : Math.sin(angle) / angle);
                sum += row[tap];
            }
            for (int tap = 0; tap < TAPS; tap++) {
                weights[place * TAPS + tap] = (float) (row[tap] / sum);
            }
        }
    }

    /** The one for a sample that is played so many times as fast as recorded. */
    static synchronized Kernel of(double ratio) {
        int step = ratio <= 1
                ? 0
                : Math.min(MOST_STEPS, (int) Math.ceil(STEPS_PER_OCTAVE * Math.log(ratio) / Math.log(2)));
        Kernel known = KERNELS[step];
        if (known == null) {
            known = new Kernel(step == 0 ? 1 : Math.pow(2, -(double) step / STEPS_PER_OCTAVE));
            KERNELS[step] = known;
        }
        return known;
    }

    float[] weights() {
        return weights;
    }
}
