package waterwheel.core.ports;

import java.util.ArrayList;
import java.util.Arrays;
import java.util.List;
import java.util.stream.IntStream;
import javax.sound.sampled.AudioFormat;
import javax.sound.sampled.AudioSystem;
import javax.sound.sampled.DataLine;
import javax.sound.sampled.Line;
import javax.sound.sampled.LineUnavailableException;
import javax.sound.sampled.Mixer;
import javax.sound.sampled.SourceDataLine;
import javax.sound.sampled.TargetDataLine;
import org.jspecify.annotations.Nullable;
import waterwheel.core.errors.DeviceException;

/**
 * One of the system's sound devices through Java Sound, with as many outputs and inputs as it has lines for. What it has
 * no input line for is only heard. After a pause both directions begin anew.
 */
public final class JavaSoundPort implements AudioPort {
    /** Enough for a system whose threads are not timed to the sample. */
    private static final int BUFFERED_BLOCKS = 8;
    /** What a device that one chose is asked for, the most first. */
    private static final int[] CHANNELS = {32, 24, 20, 18, 16, 14, 12, 10, 8, 6, 4, 2};

    /** The system's usual device takes any number, and mixes what is beyond two in ways that nobody asked for. */
    private static final int[] USUAL_CHANNELS = {2};

    private static final int[] BITS = {24, 16};
    /** Longer than that between two blocks is a pause. */
    private static final long PAUSE_NANOS = 200_000_000;

    private final String device;
    private final Lines lines;
    private @Nullable SourceDataLine out;
    private @Nullable TargetDataLine in;
    private int outputs = 2;
    private int inputs;
    private byte[] outBytes = new byte[0];
    private byte[] inBytes = new byte[0];
    private PacedClock clock = new PacedClock(48_000);
    private int block;
    private boolean gone;
    private long lastBlock;

    /** Where lines come from: the system as a whole, or one device of it. */
    interface Lines {
        boolean has(Line.Info info);

        Line open(Line.Info info) throws LineUnavailableException;
    }

    /** @param device a name from {@link #devices}; empty for the system's usual one */
    public JavaSoundPort(String device) {
        this(device, lines(device));
    }

    JavaSoundPort(String device, Lines lines) {
        this.device = device;
        this.lines = lines;
    }

    /** The names of the devices that one can hear something by. */
    public static List<String> devices() {
        List<String> names = new ArrayList<>();
        try {
            for (Mixer.Info info : AudioSystem.getMixerInfo()) {
                boolean heard =
                        AudioSystem.getMixer(info).getSourceLineInfo(new Line.Info(SourceDataLine.class)).length > 0;
                if (heard && !names.contains(info.getName())) {
                    names.add(info.getName());
                }
            }
        } catch (RuntimeException | LinkageError e) {
            // Some systems without a sound device throw here instead of having none.
            return List.of();
        }
        return names;
    }

    /** Whether the device is there and takes the rate. */
    public static boolean available(String device, int sampleRateHz) {
        try {
            return format(device, lines(device), SourceDataLine.class, sampleRateHz) != null;
        } catch (RuntimeException | LinkageError e) {
            return false;
        }
    }

    private static Lines lines(String device) {
        for (Mixer.Info info : device.isEmpty() ? new Mixer.Info[0] : AudioSystem.getMixerInfo()) {
            if (info.getName().equals(device)) {
                Mixer mixer = AudioSystem.getMixer(info);
                return new Lines() {
                    @Override
                    public boolean has(Line.Info line) {
                        return mixer.isLineSupported(line);
                    }

                    @Override
                    public Line open(Line.Info line) throws LineUnavailableException {
                        return mixer.getLine(line);
                    }
                };
            }
        }
        return new Lines() {
            @Override
            public boolean has(Line.Info line) {
                return device.isEmpty() && AudioSystem.isLineSupported(line);
            }

            @Override
            public Line open(Line.Info line) throws LineUnavailableException {
                return AudioSystem.getLine(line);
            }
        };
    }

    /** The format with the most channels and bits that there is a line for; null where there is none. */
    private static @Nullable AudioFormat format(
            String device, Lines lines, Class<? extends DataLine> kind, int sampleRateHz) {
        IntStream most = Arrays.stream(device.isEmpty() ? USUAL_CHANNELS : CHANNELS);
        int[] channels = (kind == TargetDataLine.class ? IntStream.concat(most, IntStream.of(1)) : most).toArray();
        for (int count : channels) {
            for (int bits : BITS) {
                AudioFormat format = new AudioFormat(sampleRateHz, bits, count, true, false);
                if (lines.has(new DataLine.Info(kind, format))) {
                    return format;
                }
            }
        }
        return null;
    }

    @Override
    public String name() {
        return device.isEmpty() ? "System output" : device;
    }

    @Override
    public boolean silent() {
        return gone;
    }

    @Override
    public boolean gone() {
        return gone;
    }

    @Override
    public int inputs() {
        return inputs;
    }

    @Override
    public int outputs() {
        return outputs;
    }

    /** What both buffers hold; what the device adds it does not tell. */
    @Override
    public int roundTripFrames() {
        return out == null ? 0 : heardLaterFrames() + block;
    }

    /** What the line's buffer holds, which is full while the song plays. */
    @Override
    public int heardLaterFrames() {
        SourceDataLine open = out;
        return open == null ? 0 : open.getBufferSize() / open.getFormat().getFrameSize();
    }

    @Override
    public void open(int sampleRateHz, int maxFrames) throws DeviceException {
        close();
        block = maxFrames;
        gone = false;
        clock = new PacedClock(sampleRateHz);
        try {
            AudioFormat format = format(device, lines, SourceDataLine.class, sampleRateHz);
            if (format == null) {
                throw new IllegalArgumentException("no line");
            }
            SourceDataLine heard = (SourceDataLine) lines.open(new DataLine.Info(SourceDataLine.class, format));
            heard.open(format, maxFrames * format.getFrameSize() * BUFFERED_BLOCKS);
            out = heard;
            outputs = format.getChannels();
            outBytes = new byte[maxFrames * format.getFrameSize()];
            openInput(sampleRateHz);
            heard.start();
            if (in != null) {
                in.start();
            }
            lastBlock = 0;
        } catch (LineUnavailableException | IllegalArgumentException | SecurityException e) {
            close();
            throw new DeviceException(
                    (device.isEmpty() ? "The system's sound output" : "The device " + device) + " cannot be opened at "
                            + sampleRateHz + " Hz.",
                    "End other programs that use it, or choose another device in Outboard.",
                    e);
        }
    }

    /** A device that only gives out is no trouble. */
    private void openInput(int sampleRateHz) {
        AudioFormat format = format(device, lines, TargetDataLine.class, sampleRateHz);
        if (format == null) {
            return;
        }
        try {
            TargetDataLine opened = (TargetDataLine) lines.open(new DataLine.Info(TargetDataLine.class, format));
            opened.open(format, block * format.getFrameSize() * BUFFERED_BLOCKS);
            in = opened;
            inputs = format.getChannels();
            inBytes = new byte[block * format.getFrameSize()];
        } catch (LineUnavailableException | IllegalArgumentException | SecurityException e) {
            in = null;
            inputs = 0;
        }
    }

    @Override
    public void read(float[][] to, int frames) {
        long now = System.nanoTime();
        if (now - lastBlock > PAUSE_NANOS && !gone) {
            beginAnew();
        }
        TargetDataLine open = in;
        int bytes = open == null ? 0 : frames * open.getFormat().getFrameSize();
        int got = open == null || gone ? 0 : open.read(inBytes, 0, bytes);
        if (open != null && got < bytes) {
            Arrays.fill(inBytes, Math.max(0, got), bytes, (byte) 0);
            gone |= !open.isOpen();
        }
        for (int p = 0; p < Math.min(inputs, to.length); p++) {
            Samples.decode(inBytes, p, inputs, sampleBytes(open), to[p], frames);
        }
    }

    /** What is heard of before the pause goes, and as much silence goes before as there are blocks held. */
    private void beginAnew() {
        SourceDataLine heard = out;
        if (in != null) {
            in.flush();
        }
        if (heard != null) {
            heard.flush();
            Arrays.fill(outBytes, (byte) 0);
            for (int b = 1; b < BUFFERED_BLOCKS; b++) {
                heard.write(outBytes, 0, outBytes.length);
            }
        }
    }

    private static int sampleBytes(@Nullable DataLine line) {
        return line == null ? 2 : line.getFormat().getSampleSizeInBits() / 8;
    }

    @Override
    public void write(float[][] from, int frames) {
        SourceDataLine open = out;
        if (open == null) {
            throw new IllegalStateException("port: closed (expected: open before write)");
        }
        lastBlock = System.nanoTime();
        if (gone) {
            clock.pass(frames);
            return;
        }
        for (int p = 0; p < outputs; p++) {
            if (p < from.length) {
                Samples.encode(from[p], frames, outBytes, p, outputs, sampleBytes(open));
            }
        }
        int bytes = frames * open.getFormat().getFrameSize();
        if (open.write(outBytes, 0, bytes) < bytes && !open.isOpen()) {
            gone = true;
        }
    }

    @Override
    public void close() {
        for (DataLine line : new DataLine[] {out, in}) {
            if (line != null) {
                line.close();
            }
        }
        out = null;
        in = null;
        inputs = 0;
    }
}
