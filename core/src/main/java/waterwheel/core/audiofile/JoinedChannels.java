package waterwheel.core.audiofile;

import java.nio.file.Path;

/**
 * Two mono files of one length and rate as one stereo file. Closing it closes both.
 *
 * @param left read while this is
 * @param right likewise
 */
public record JoinedChannels(AudioFile left, AudioFile right) implements AudioFile {
    public JoinedChannels {
        AudioFormat one = left.format();
        AudioFormat other = right.format();
        if (one.channels() != 1
                || other.channels() != 1
                || one.frames() != other.frames()
                || one.sampleRateHz() != other.sampleRateHz()) {
            throw new IllegalArgumentException(
                    "left, right: " + one + ", " + other + " (expected: two mono files of one length and sample rate)");
        }
    }

    @Override
    public Path path() {
        return left.path();
    }

    @Override
    public AudioFormat format() {
        AudioFormat one = left.format();
        boolean alike = one.encoding() == right.format().encoding();
        return new AudioFormat(
                one.frames(),
                2,
                one.sampleRateHz(),
                alike ? one.encoding() : SampleEncoding.FLOAT_32,
                one.truncated() || right.format().truncated(),
                one.timeReferenceFrames());
    }

    @Override
    public Reader reader(int maxFrames) {
        Reader leftReader = left.reader(maxFrames);
        Reader rightReader = right.reader(maxFrames);
        float[][] mono = new float[1][maxFrames];
        return (firstFrame, planes, at, frames) -> {
            leftReader.read(firstFrame, mono, 0, frames);
            System.arraycopy(mono[0], 0, planes[0], at, frames);
            rightReader.read(firstFrame, mono, 0, frames);
            System.arraycopy(mono[0], 0, planes[1], at, frames);
        };
    }

    @Override
    public void close() {
        left.close();
        right.close();
    }
}
