package waterwheel.core.demo;

/**
 * A stone room: parallel combs with damping, then allpasses (Schroeder, Natural sounding artificial reverberation,
 * J. Audio Eng. Soc. 10, 1962; damping after Moorer 1979).
 */
final class Room {
    private static final int[] COMBS = {1_687, 1_601, 2_053, 2_251};
    private static final int[] ALLPASSES = {347, 113};

    private Room() {}

    /**
     * Returns the room's answer to a signal.
     *
     * @param offset makes the two sides of a pair unlike each other, in samples
     * @param seconds reverberation time to -60 dB
     */
    static float[] answer(float[] dry, int rate, int offset, double seconds) {
        float[] wet = new float[dry.length];
        for (int delay : COMBS) {
            comb(dry, wet, delay + offset, StrictMath.pow(0.001, (delay + offset) / (seconds * rate)));
        }
        for (int delay : ALLPASSES) {
            allpass(wet, delay + offset / 4);
        }
        return wet;
    }

    private static void comb(float[] dry, float[] wet, int delay, double feedback) {
        double[] line = new double[delay];
        double damped = 0;
        int at = 0;
        for (int i = 0; i < dry.length; i++) {
            double out = line[at];
            damped += 0.55 * (out - damped);
            line[at] = dry[i] + feedback * damped;
            at = at + 1 == delay ? 0 : at + 1;
            wet[i] += (float) (0.25 * out);
            // A tail that has died away must not fade on through the denormal numbers.
            damped = Math.abs(damped) < 1e-15 ? 0 : damped;
        }
    }

    private static void allpass(float[] signal, int delay) {
        double[] line = new double[delay];
        int at = 0;
        for (int i = 0; i < signal.length; i++) {
            double held = line[at];
            double in = signal[i] + 0.6 * held;
            line[at] = Math.abs(in) < 1e-15 ? 0 : in;
            at = at + 1 == delay ? 0 : at + 1;
            signal[i] = (float) (held - 0.6 * in);
        }
    }
}
