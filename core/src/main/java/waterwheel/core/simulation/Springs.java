package waterwheel.core.simulation;

/**
 * Two springs: delays that feed back, through a chain of all-passes that let high frequencies arrive later (Abel,
 * Berners, Costello, Smith, Spring reverb emulation using dispersive allpass filters, AES 121, 2006).
 */
final class Springs implements PartSound {
    private static final int ALL_PASSES = 40;
    private static final double DISPERSION = -0.6;
    private static final double[] ROUND_TRIPS_SECONDS = {0.0372, 0.0461};

    private final double[][] lines = new double[ROUND_TRIPS_SECONDS.length][];
    private final double[][] memories = new double[ROUND_TRIPS_SECONDS.length][ALL_PASSES];
    private final int[] places = new int[ROUND_TRIPS_SECONDS.length];
    private final double[] feedback = new double[ROUND_TRIPS_SECONDS.length];
    private final double mix;

    /** @param seconds how long it takes to fall by 60 dB */
    Springs(double seconds, double mix, int rate) {
        this.mix = mix;
        for (int s = 0; s < lines.length; s++) {
            lines[s] = new double[Math.max(1, (int) Math.round(ROUND_TRIPS_SECONDS[s] * rate))];
            feedback[s] = -Math.pow(10, -3 * ROUND_TRIPS_SECONDS[s] / seconds);
        }
    }

    @Override
    public double next(double in) {
        double wet = 0;
        for (int s = 0; s < lines.length; s++) {
            double x = lines[s][places[s]];
            double[] memory = memories[s];
            for (int i = 0; i < ALL_PASSES; i++) {
                double y = DISPERSION * x + memory[i];
                memory[i] = x - DISPERSION * y;
                x = y;
            }
            lines[s][places[s]] = in + feedback[s] * x;
            places[s] = (places[s] + 1) % lines[s].length;
            wet += x;
        }
        return (1 - mix) * in + mix * 0.5 * wet;
    }
}
