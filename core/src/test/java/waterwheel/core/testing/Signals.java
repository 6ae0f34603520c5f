package waterwheel.core.testing;

import java.nio.file.Path;
import java.util.SplittableRandom;
import waterwheel.core.audiofile.SampleEncoding;
import waterwheel.core.audiofile.WavWriter;

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
}
