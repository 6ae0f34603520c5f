package waterwheel.core.simulation;

/** Turns down what is loud, by a smoothed square of the signal, as a lamp and a light-dependent resistor do. */
final class Leveller implements PartSound {
    private final double threshold;
    private final double slope;
    private final double attack;
    private final double release;
    private double square;

    Leveller(double thresholdDbu, double ratio, double attackMs, double releaseMs, int rate) {
        threshold = PartSound.factor(thresholdDbu);
        slope = 1 / ratio - 1;
        attack = 1 - Math.exp(-1_000 / (attackMs * rate));
        release = 1 - Math.exp(-1_000 / (releaseMs * rate));
    }

    @Override
    public double next(double in) {
        double now = 2 * in * in;
        square += (now > square ? attack : release) * (now - square);
        double over = Math.sqrt(square) / threshold;
        return over > 1 ? in * Math.pow(over, slope) : in;
    }
}
