package waterwheel.core.audiofile;

import java.nio.file.Path;
import java.util.Arrays;
import java.util.OptionalLong;
import waterwheel.core.units.Bessel;

/**
 * A file as if it had been recorded at another sample rate. A band-limited interpolation by a windowed sinc (Smith and
 * Gossett, A flexible sampling-rate conversion method, ICASSP 1984; window after Kaiser), without delay: frame 0 stays
 * time 0.
 *
 * <p>The pass band ends at 0.907 of the lower rate's half (20 kHz at 44.1 kHz) with a ripple below 0.001 dB; from the
 * lower rate's half on, images and aliases are more than 120 dB down.
 *
 * <p>Closing it closes the file that it was made of.
 */
public final class ResampledFile implements AudioFile {
    private static final double PASS_BAND = 0.907;
    private static final double STOP_BAND_DB = 128;
    /** Kaiser's formula for a stop band of more than 50 dB. */
    private static final double BETA = 0.1102 * (STOP_BAND_DB - 8.7);
    /** More phases than this are computed when they are wanted rather than kept. */
    private static final int MOST_PHASES_KEPT = 4_096;

    private final AudioFile source;
    private final int rate;
    private final long up;
    private final long down;
    private final int half;
    private final double cutoff;
    private final double[][] phases;

    /**
     * Makes the file.
     *
     * @param source read while this is; closed with it
     * @param sampleRateHz the rate wanted
     */
    public ResampledFile(AudioFile source, int sampleRateHz) {
        this.source = source;
        this.rate = sampleRateHz;
        int from = source.format().sampleRateHz();
        long common = greatestCommonDivisor(from, sampleRateHz);
        up = sampleRateHz / common;
        down = from / common;
        double lower = Math.min(from, sampleRateHz);
        double transition = 2 * Math.PI * (1 - PASS_BAND) * lower / 2 / from;
        half = (int) Math.ceil((STOP_BAND_DB - 7.95) / (2.285 * transition) / 2);
        // The middle of the transition, as a part of the source's rate.
        cutoff = (1 + PASS_BAND) / 2 * lower / 2 / from;
        phases = new double[up <= MOST_PHASES_KEPT ? (int) up : 0][];
        for (int p = 0; p < phases.length; p++) {
            phases[p] = new double[2 * half];
            fillTaps((double) p / up, phases[p]);
        }
    }

    private static long greatestCommonDivisor(long a, long b) {
        return b == 0 ? a : greatestCommonDivisor(b, a % b);
    }

    /** Weights of the source frames from {@code half - 1} before the wanted place to {@code half} after it. */
    private void fillTaps(double fraction, double[] taps) {
        double norm = Bessel.i0(BETA);
        for (int k = 0; k < taps.length; k++) {
            double t = k - (half - 1) - fraction;
            double inWindow = t / half;
            double window = Math.abs(inWindow) >= 1 ? 0 : Bessel.i0(BETA * Math.sqrt(1 - inWindow * inWindow)) / norm;
            double x = 2 * Math.PI * cutoff * t;
            taps[k] = window * (Math.abs(x) < 1e-9 ? 2 * cutoff : Math.sin(x) / (Math.PI * t));
        }
    }

    @Override
    public Path path() {
        return source.path();
    }

    @Override
    public AudioFormat format() {
        AudioFormat original = source.format();
        return new AudioFormat(
                Math.ceilDiv(original.frames() * up, down),
                original.channels(),
                rate,
                SampleEncoding.FLOAT_32,
                original.truncated(),
                original.timeReferenceFrames().isPresent()
                        ? OptionalLong.of(original.timeReferenceFrames().getAsLong() * up / down)
                        : OptionalLong.empty());
    }

    @Override
    public Reader reader(int maxFrames) {
        int channels = source.format().channels();
        int most = (int) (maxFrames * down / up) + 2 * half + 2;
        Reader reader = source.reader(most);
        float[][] input = new float[channels][most];
        double[] own = new double[2 * half];
        return (firstFrame, planes, at, frames) -> {
            if (frames == 0) {
                return;
            }
            long start = Math.floorDiv(firstFrame * down, up) - (half - 1);
            long end = Math.floorDiv((firstFrame + frames - 1) * down, up) + half + 1;
            readPadded(reader, start, input, (int) (end - start));
            for (int i = 0; i < frames; i++) {
                long place = (firstFrame + i) * down;
                int phase = (int) Math.floorMod(place, up);
                double[] taps = own;
                if (phases.length > 0) {
                    taps = phases[phase];
                } else {
                    fillTaps((double) phase / up, own);
                }
                int from = (int) (Math.floorDiv(place, up) - (half - 1) - start);
                for (int c = 0; c < channels; c++) {
                    planes[c][at + i] = (float) product(taps, input[c], from);
                }
            }
        };
    }

    /** Reads frames of which some may lie before the file's beginning or after its end, where silence is. */
    private void readPadded(Reader reader, long start, float[][] planes, int frames) {
        long from = Math.clamp(start, 0, source.format().frames());
        long to = Math.clamp(start + frames, 0, source.format().frames());
        for (float[] plane : planes) {
            Arrays.fill(plane, 0, frames, 0);
        }
        if (to > from) {
            reader.read(from, planes, (int) (from - start), (int) (to - from));
        }
    }

    private static double product(double[] taps, float[] samples, int from) {
        double sum0 = 0;
        double sum1 = 0;
        double sum2 = 0;
        double sum3 = 0;
        int k = 0;
        for (; k + 4 <= taps.length; k += 4) {
            sum0 += taps[k] * samples[from + k];
            sum1 += taps[k + 1] * samples[from + k + 1];
            sum2 += taps[k + 2] * samples[from + k + 2];
            sum3 += taps[k + 3] * samples[from + k + 3];
        }
        for (; k < taps.length; k++) {
            sum0 += taps[k] * samples[from + k];
        }
        return (sum0 + sum1) + (sum2 + sum3);
    }

    @Override
    public void close() {
        source.close();
    }
}
