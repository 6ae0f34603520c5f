package waterwheel.core.audiofile;

import java.nio.ByteOrder;
import java.nio.file.Path;
import waterwheel.core.errors.AudioFileException;
import waterwheel.core.units.SongLength;

/**
 * Where and how a file's samples lie: interleaved, each in as many bytes as its encoding has.
 *
 * @param dataOffset where the samples begin, in bytes from the start of the file
 * @param order of the bytes of a sample
 * @param unsigned whether 8-bit samples are offset by 128, as in WAV files
 */
record PcmLayout(AudioFormat format, long dataOffset, ByteOrder order, boolean unsigned) {
    static final int MOST_CHANNELS = 64;

    /**
     * Checks what every header states.
     *
     * @throws AudioFileException if it cannot be true, or is more than can be dealt with
     */
    static void check(Path path, long channels, double sampleRateHz) throws AudioFileException {
        if (channels < 1 || channels > MOST_CHANNELS) {
            throw new AudioFileException(path, "states " + channels + " channels.", "Export it again, mono or stereo.");
        }
        if (!(sampleRateHz >= 8_000 && sampleRateHz <= 384_000) || sampleRateHz != Math.rint(sampleRateHz)) {
            throw new AudioFileException(
                    path,
                    "states a sample rate of " + number(sampleRateHz) + " Hz.",
                    "Export it at a whole rate from 8,000 to 384,000 Hz.");
        }
    }

    /** A file that is longer than anything that can be worked with. */
    static AudioFileException tooLong(Path path) {
        return new AudioFileException(
                path,
                "states that it lasts longer than " + SongLength.MOST_SECONDS / 3_600 + " hours.",
                "Cut it into shorter files.");
    }

    private static String number(double value) {
        return value == Math.rint(value) && Math.abs(value) < 1e15
                ? Long.toString((long) value)
                : Double.toString(value);
    }
}
