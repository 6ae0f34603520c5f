package waterwheel.core.outboard;

import java.util.Optional;

/**
 * Hum of the mains in a stretch without signal: sines of the mains' frequency and its harmonics, fitted by least squares.
 *
 * @param hertz of the mains, 50 or 60
 * @param dbfs the loudest of them
 */
record Hum(double hertz, double dbfs) {
    private static final int HARMONICS = 6;
    /** How far a sine must stand out of the noise, as a ratio of powers after the fit's own gain. */
    private static final double STANDS_OUT = 40;

    /** Finds the hum, if there is any. */
    static Optional<Hum> in(double[] silence, int rate) {
        Optional<Hum> found = Optional.empty();
        double most = 0;
        for (double hertz : new double[] {50, 60}) {
            double noise = 0;
            for (double sample : silence) {
                noise += sample * sample;
            }
            double[] powers = new double[HARMONICS];
            for (int h = 0; h < HARMONICS; h++) {
                powers[h] = power(silence, hertz * (h + 1), rate);
                noise -= powers[h] * silence.length;
            }
            double floor = Math.max(noise, 0) / silence.length / silence.length;
            double loudest = 0;
            double all = 0;
            for (double power : powers) {
                if (power > STANDS_OUT * floor && power > 1e-12) {
                    loudest = Math.max(loudest, power);
                    all += power;
                }
            }
            if (all > most) {
                most = all;
                found = Optional.of(new Hum(hertz, 10 * Math.log10(2 * loudest)));
            }
        }
        return found;
    }

    /** Mean square of the sine of a frequency that fits best. */
    private static double power(double[] signal, double hertz, int rate) {
        double cc = 0;
        double ss = 0;
        double cs = 0;
        double xc = 0;
        double xs = 0;
        double step = 2 * Math.PI * hertz / rate;
        for (int i = 0; i < signal.length; i++) {
            double c = Math.cos(step * i);
            double s = Math.sin(step * i);
            cc += c * c;
            ss += s * s;
            cs += c * s;
            xc += signal[i] * c;
            xs += signal[i] * s;
        }
        double determinant = cc * ss - cs * cs;
        double a = (xc * ss - xs * cs) / determinant;
        double b = (xs * cc - xc * cs) / determinant;
        return (a * a + b * b) / 2;
    }
}
