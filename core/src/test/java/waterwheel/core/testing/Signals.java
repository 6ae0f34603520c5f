package waterwheel.core.testing;

import java.nio.file.Path;
import java.util.SplittableRandom;
import waterwheel.core.audiofile.SampleEncoding;
import waterwheel.core.audiofile.WavWriter;
import waterwheel.core.engine.SignalListener;
import waterwheel.core.units.Bessel;

/** Signals and files that tests are made of. */
public final class Signals {
    private Signals() {}

    /** A sine of a peak level in dBFS. */
    public static float[] sine(double hertz, double peakDbfs, int rate, double seconds) {
        return sine(hertz, peakDbfs, rate, seconds, 0);
    }

    public static float[] sine(double hertz, double peakDbfs, int rate, double seconds, double phaseDegrees) {
        float[] out = new float[(int) Math.round(seconds * rate)];
        double amplitude = Math.pow(10, peakDbfs / 20);
        for (int i = 0; i < out.length; i++) {
            out[i] = (float) (amplitude * Math.sin(2 * Math.PI * hertz * i / rate + Math.toRadians(phaseDegrees)));
        }
        return out;
    }

    public static float[] noise(double level, int frames, long seed) {
        SplittableRandom random = new SplittableRandom(seed);
        float[] out = new float[frames];
        for (int i = 0; i < frames; i++) {
            out[i] = (float) (level * (random.nextDouble() * 2 - 1));
        }
        return out;
    }

    /**
     * The peak of what a signal has above a frequency, dBFS: through a Kaiser-windowed sinc of 1,025 taps (beta 12: more
     * than 110 dB down 800 Hz below, at 48 kHz).
     *
     * @param skip frames at the beginning that are not looked at, and as many at the end
     */
    public static double peakAboveDb(float[] signal, int rate, double hertz, int skip) {
        int half = 512;
        double[] taps = new double[2 * half + 1];
        for (int k = -half; k <= half; k++) {
            double edge = (double) k / (half + 1);
            double window = Bessel.i0(12 * Math.sqrt(1 - edge * edge)) / Bessel.i0(12);
            double low = k == 0 ? 2 * hertz / rate : Math.sin(2 * Math.PI * hertz * k / rate) / (Math.PI * k);
            taps[k + half] = ((k == 0 ? 1 : 0) - low) * window;
        }
        double most = 0;
        int from = Math.max(skip, half);
        for (int i = from; i < signal.length - from; i++) {
            double sum = 0;
            for (int k = -half; k <= half; k++) {
                sum += taps[k + half] * signal[i - k];
            }
            most = Math.max(most, Math.abs(sum));
        }
        return 20 * Math.log10(most);
    }

    /** Signals one after the other. */
    public static float[] joined(float[]... parts) {
        int length = 0;
        for (float[] part : parts) {
            length += part.length;
        }
        float[] out = new float[length];
        int at = 0;
        for (float[] part : parts) {
            System.arraycopy(part, 0, out, at, part.length);
            at += part.length;
        }
        return out;
    }

    public static float[] silence(int rate, double seconds) {
        return new float[(int) Math.round(rate * seconds)];
    }

    /** Writes planes to a WAV file and returns it. */
    public static Path wav(Path file, int rate, SampleEncoding encoding, float[]... planes) throws Exception {
        try (WavWriter writer = WavWriter.create(file, planes.length, rate, encoding, planes[0].length)) {
            writer.write(planes, 0, planes[0].length);
            writer.finish();
        }
        return file;
    }

    /** A listener that puts what it hears where it stands in the song, {@code out[plane][frame]}. */
    public static SignalListener into(float[][] out) {
        return (signal, first, count) -> {
            for (int p = 0; p < out.length; p++) {
                System.arraycopy(signal[p], 0, out[p], (int) first, count);
            }
        };
    }
}
