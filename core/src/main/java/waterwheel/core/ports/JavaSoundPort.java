package waterwheel.core.ports;

import javax.sound.sampled.AudioFormat;
import javax.sound.sampled.AudioSystem;
import javax.sound.sampled.DataLine;
import javax.sound.sampled.LineUnavailableException;
import javax.sound.sampled.SourceDataLine;
import org.jspecify.annotations.Nullable;
import waterwheel.core.errors.DeviceException;

/** The system's default output through Java Sound, 16-bit stereo. */
public final class JavaSoundPort implements AudioPort {
    private static final int BUFFERED_BLOCKS = 8;

    private @Nullable SourceDataLine line;
    private byte[] bytes = new byte[0];

    /** Whether the system has an output for the rate. */
    public static boolean available(int sampleRateHz) {
        try {
            return AudioSystem.isLineSupported(info(sampleRateHz));
        } catch (RuntimeException | LinkageError e) {
            // Some systems without a sound device throw here instead of saying no.
            return false;
        }
    }

    private static DataLine.Info info(int sampleRateHz) {
        return new DataLine.Info(SourceDataLine.class, format(sampleRateHz));
    }

    private static AudioFormat format(int sampleRateHz) {
        return new AudioFormat(sampleRateHz, 16, 2, true, false);
    }

    @Override
    public String name() {
        return "System output";
    }

    @Override
    public boolean silent() {
        return false;
    }

    @Override
    public void open(int sampleRateHz, int maxFrames) throws DeviceException {
        try {
            SourceDataLine opened = (SourceDataLine) AudioSystem.getLine(info(sampleRateHz));
            opened.open(format(sampleRateHz), maxFrames * 4 * BUFFERED_BLOCKS);
            opened.start();
            line = opened;
            bytes = new byte[maxFrames * 4];
        } catch (LineUnavailableException | IllegalArgumentException e) {
            throw new DeviceException(
                    "The system's sound output cannot be opened at " + sampleRateHz + " Hz.",
                    "End other programs that use it, or choose another device in the system's settings.",
                    e);
        }
    }

    @Override
    public void write(float[][] out, int frames) {
        SourceDataLine open = line;
        if (open == null) {
            throw new IllegalStateException("port: closed (expected: open before write)");
        }
        for (int i = 0; i < frames; i++) {
            put(4 * i, out[0][i]);
            put(4 * i + 2, out[1][i]);
        }
        open.write(bytes, 0, frames * 4);
    }

    private void put(int at, float sample) {
        int value = Math.clamp(Math.round(sample * 32_767), -32_768, 32_767);
        bytes[at] = (byte) value;
        bytes[at + 1] = (byte) (value >> 8);
    }

    @Override
    public void close() {
        if (line != null) {
            line.close();
            line = null;
        }
    }
}
