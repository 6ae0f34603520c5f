package waterwheel.core.outboard;

/**
 * A period of a sound in which every frequency is equally loud: a multisine with the phases of a sweep (Schroeder,
 * Synthesis of low-peak-factor signals, IEEE Transactions on Information Theory 16, 1970). What comes back of it,
 * divided by it frequency by frequency, is the way's response, wherever in a period one begins to listen.
 */
final class Sweep {
    private final float[] period;
    private final Spectrum spectrum;

    /** @param frames length of a period, a power of two */
    Sweep(int frames) {
        Spectrum wanted = new Spectrum(frames);
        for (int k = 1; k < frames / 2; k++) {
            double phase = -2 * Math.PI * ((double) k * k / (2.0 * frames));
            wanted.set(k, Math.cos(phase), Math.sin(phase));
        }
        double[] made = wanted.signal();
        double most = 0;
        for (double sample : made) {
            most = Math.max(most, Math.abs(sample));
        }
        period = new float[frames];
        for (int i = 0; i < frames; i++) {
            period[i] = (float) (made[i] / most);
        }
        spectrum = Spectrum.of(period);
    }

    /** A sample of the period, which goes on in a circle; the largest is 1. */
    float at(long frame) {
        return period[(int) Math.floorMod(frame, (long) period.length)];
    }

    /** The mean square of its samples, as a sine's: a full-scale one has 1. */
    double power() {
        double sum = 0;
        for (float sample : period) {
            sum += (double) sample * sample;
        }
        return 2 * sum / period.length;
    }

    /** The response of a way that made this of the period. */
    Spectrum response(double[] answer) {
        return Spectrum.of(answer).over(spectrum);
    }
}
