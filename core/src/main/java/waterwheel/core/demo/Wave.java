package waterwheel.core.demo;

/** One period of a tone as a table, with every harmonic that stays below half the sample rate. */
final class Wave {
    private static final int SIZE = 2_048;
    private static final double[] SINE = new double[SIZE];

    static {
        for (int i = 0; i < SIZE; i++) {
            SINE[i] = StrictMath.sin(2 * Math.PI * i / SIZE);
        }
    }

    /** How strong a harmonic is. */
    interface Spectrum {
        /**
         * Linear strength of a harmonic.
         *
         * @param number 1 for the fundamental
         * @param hertz its frequency
         */
        double strength(int number, double hertz);
    }

    private final float[] table = new float[SIZE + 1];

    Wave(double fundamentalHertz, int sampleRateHz, Spectrum spectrum) {
        double[] sum = new double[SIZE];
        double most = 0;
        for (int h = 1; h * fundamentalHertz < Math.min(sampleRateHz * 0.45, 12_000); h++) {
            double strength = spectrum.strength(h, h * fundamentalHertz);
            // Phases that follow no pattern keep the peaks of many harmonics apart.
            int phase = h * h * 331 % SIZE;
            for (int i = 0; i < SIZE; i++) {
                sum[i] += strength * SINE[(i * h + phase) & (SIZE - 1)];
            }
        }
        for (double value : sum) {
            most = Math.max(most, Math.abs(value));
        }
        for (int i = 0; i <= SIZE; i++) {
            table[i] = (float) (sum[i & (SIZE - 1)] / most);
        }
    }

    /** The value at a phase from 0 up; only the part after the point counts. */
    double at(double phase) {
        double place = (phase - (long) phase) * SIZE;
        int index = (int) place;
        return table[index] + (place - index) * (table[index + 1] - table[index]);
    }

    static double sine(double phase) {
        double place = (phase - (long) phase) * SIZE;
        return SINE[(int) place & (SIZE - 1)];
    }
}
