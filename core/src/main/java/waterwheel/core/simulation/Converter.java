package waterwheel.core.simulation;

/** Steps of 24 bits between the rails of full scale. */
final class Converter {
    private static final float STEPS = 1 << 23;

    private Converter() {}

    /** Converts in place. */
    static void convert(float[] signal, int frames) {
        for (int i = 0; i < frames; i++) {
            double steps = Math.rint((double) signal[i] * STEPS);
            signal[i] = (float) (Math.clamp(steps, -STEPS, STEPS - 1) / STEPS);
        }
    }
}
