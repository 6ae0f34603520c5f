package waterwheel.core.metering;

/**
 * Finds where a signal has the middle of its power between 500 Hz and 5 kHz, where speech is understood: the third-octave
 * band (IEC 61260-1, base ten) below and above which there is the same. Bands are second-order band-passes (R.
 * Bristow-Johnson, Audio EQ Cookbook) of Q 4.32. One thread at a time; allocates nothing after construction.
 */
public final class MiddleBand {
    /** Of the bands' numbers: band n lies at 1,000 Hz times 10 to the power of n / 10. */
    private static final int LOWEST = -3;

    private static final int HIGHEST = 7;
    private static final double Q = 4.318;

    private final double[] b0 = new double[HIGHEST - LOWEST + 1];
    private final double[] a1 = new double[b0.length];
    private final double[] a2 = new double[b0.length];
    private final double[] power = new double[b0.length];
    private final double[][] one;
    private final double[][] two;

    /** Bands of a signal of some planes, at a rate in Hz of at least 22,050. */
    public MiddleBand(int sampleRateHz, int planes) {
        one = new double[planes][b0.length];
        two = new double[planes][b0.length];
        for (int band = 0; band < b0.length; band++) {
            double w = 2 * Math.PI * hertz(band) / sampleRateHz;
            double alpha = Math.sin(w) / (2 * Q);
            b0[band] = alpha / (1 + alpha);
            a1[band] = -2 * Math.cos(w) / (1 + alpha);
            a2[band] = (1 - alpha) / (1 + alpha);
        }
    }

    private static double hertz(int band) {
        return 1_000 * Math.pow(10, (band + LOWEST) / 10.0);
    }

    /** Takes the next frames of {@code signal[plane][0 .. frames)}. */
    public void accept(float[][] signal, int frames) {
        for (int p = 0; p < one.length; p++) {
            for (int band = 0; band < b0.length; band++) {
                take(signal[p], frames, p, band);
            }
        }
    }

    /** y = b0 (x - x₂) - a1 y₁ - a2 y₂, transposed. */
    private void take(float[] x, int frames, int plane, int band) {
        double s1 = one[plane][band];
        double s2 = two[plane][band];
        double b = b0[band];
        double sum = 0;
        for (int i = 0; i < frames; i++) {
            double y = b * x[i] + s1;
            s1 = s2 - a1[band] * y;
            s2 = -b * x[i] - a2[band] * y;
            sum += y * y;
        }
        one[plane][band] = Math.abs(s1) < 1e-15 ? 0 : s1;
        two[plane][band] = Math.abs(s2) < 1e-15 ? 0 : s2;
        power[band] += sum;
    }

    /** The band's middle in Hz; 2 kHz for silence. */
    public double hertz() {
        double whole = 0;
        for (double one : power) {
            whole += one;
        }
        double sum = 0;
        for (int band = 0; band < power.length && whole > 0; band++) {
            sum += power[band];
            if (sum >= whole / 2) {
                return hertz(band);
            }
        }
        return 2_000;
    }
}
