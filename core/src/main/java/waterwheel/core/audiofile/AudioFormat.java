package waterwheel.core.audiofile;

import java.util.List;
import java.util.OptionalLong;

/**
 * What an audio file holds.
 *
 * @param frames length in frames
 * @param channels 1 or more; a session takes 1 or 2
 * @param truncated whether the file ends before the length that its header states
 * @param timeReferenceFrames where a Broadcast Wave file belongs on the recorder's line, in frames since midnight (EBU
 *     Tech 3285); empty in other files
 * @param speakers what each channel is made for; empty where there are more channels than any layout has
 */
public record AudioFormat(
        long frames,
        int channels,
        int sampleRateHz,
        SampleEncoding encoding,
        boolean truncated,
        OptionalLong timeReferenceFrames,
        List<Speaker> speakers) {
    public AudioFormat {
        speakers = List.copyOf(speakers);
    }

    /** A format whose channels are made for the usual speakers. */
    public AudioFormat(
            long frames,
            int channels,
            int sampleRateHz,
            SampleEncoding encoding,
            boolean truncated,
            OptionalLong timeReferenceFrames) {
        this(frames, channels, sampleRateHz, encoding, truncated, timeReferenceFrames, Speaker.usual(channels));
    }

    public double seconds() {
        return (double) frames / sampleRateHz;
    }

    AudioFormat withChannels(int value) {
        return new AudioFormat(frames, value, sampleRateHz, encoding, truncated, timeReferenceFrames);
    }

    /** The same audio stored in another way. */
    public AudioFormat withEncoding(SampleEncoding value) {
        return new AudioFormat(frames, channels, sampleRateHz, value, truncated, timeReferenceFrames, speakers);
    }
}
