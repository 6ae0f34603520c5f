package waterwheel.core.audiofile;

/**
 * What an audio file holds.
 *
 * @param frames length in frames
 * @param channels 1 or 2
 * @param truncated whether the file ends before the length that its header states
 */
public record AudioFormat(long frames, int channels, int sampleRateHz, SampleEncoding encoding, boolean truncated) {
    public double seconds() {
        return (double) frames / sampleRateHz;
    }
}
