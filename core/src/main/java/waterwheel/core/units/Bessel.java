package waterwheel.core.units;

/** Modified Bessel function of the first kind and order 0, which Kaiser's window is made of. */
public final class Bessel {
    private Bessel() {}

    /**
     * Returns I₀(x) by its power series (Abramowitz and Stegun, 9.6.12), to double precision for |x| up to 100.
     *
     * @param x any number
     */
    public static double i0(double x) {
        double quarter = x * x / 4;
        double term = 1;
        double sum = 1;
        for (int k = 1; term > 1e-17 * sum; k++) {
            term *= quarter / ((double) k * k);
            sum += term;
        }
        return sum;
    }
}
