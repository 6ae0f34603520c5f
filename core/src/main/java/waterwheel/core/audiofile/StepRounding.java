package waterwheel.core.audiofile;

import java.nio.file.Path;

/**
 * Rounds samples to the steps of a fixed-point encoding, with TPDF dither of ±1 LSB. The dither depends on the file's
 * name and on nothing else: the same audio under the same name gives the same bytes, and the noise of files of different
 * names, such as stems that are summed later, is not the same noise. One thread at a time.
 */
final class StepRounding {
    private final TpdfDither[] dither;
    private final boolean dithered;
    private final double fullScale;
    private long limitedSamples;

    /** @param dithered false for samples that the encoding holds exactly */
    StepRounding(Path target, int channels, SampleEncoding encoding, boolean dithered) {
        this.dithered = dithered;
        fullScale = encoding.fullScaleSteps();
        dither = new TpdfDither[channels];
        for (int i = 0; i < channels; i++) {
            dither[i] = new TpdfDither(2L * target.getFileName().toString().hashCode() + i);
        }
    }

    /** Rounds the next frames of one channel into its places among the interleaved steps of all. */
    void round(float[] samples, int from, int count, int channel, int[] out) {
        final int stride = dither.length;
        final double scale = fullScale;
        final TpdfDither noise = dither[channel];
        int at = channel;
        long held = 0;
        for (int i = from; i < from + count; i++) {
            double value = samples[i] * scale + (dithered ? noise.next() : 0) + 0.5;
            if (value >= scale) {
                value = scale - 1;
                held++;
            } else if (value < -scale) {
                value = -scale;
                held++;
            }
            out[at] = (int) Math.floor(value);
            at += stride;
        }
        limitedSamples += held;
    }

    /** Samples so far that had to be held at the encoding's limit. */
    long limitedSamples() {
        return limitedSamples;
    }
}
