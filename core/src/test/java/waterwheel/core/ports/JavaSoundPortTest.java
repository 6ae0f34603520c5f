package waterwheel.core.ports;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatExceptionOfType;
import static org.assertj.core.api.Assertions.within;

import java.lang.reflect.InvocationHandler;
import java.lang.reflect.Proxy;
import java.util.ArrayDeque;
import java.util.Deque;
import javax.sound.sampled.AudioFormat;
import javax.sound.sampled.DataLine;
import javax.sound.sampled.Line;
import javax.sound.sampled.LineUnavailableException;
import javax.sound.sampled.SourceDataLine;
import javax.sound.sampled.TargetDataLine;
import org.junit.jupiter.api.DisplayNameGeneration;
import org.junit.jupiter.api.DisplayNameGenerator;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.Timeout;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;
import waterwheel.core.errors.DeviceException;
import waterwheel.core.testing.Signals;

/** The system's devices, by lines that are not there: what goes out comes in as by cables of each number. */
@DisplayNameGeneration(DisplayNameGenerator.ReplaceUnderscores.class)
@Timeout(30)
class JavaSoundPortTest {
    private static final int BLOCK = 64;

    /** A device with lines of some channels and bits, whose outputs are joined with its inputs. */
    private static final class Device implements JavaSoundPort.Lines {
        private final int outputs;
        private final int inputs;
        private final int bits;
        private final Deque<Byte> cable = new ArrayDeque<>();
        private boolean busy;
        private boolean unplugged;

        Device(int outputs, int inputs, int bits) {
            this.outputs = outputs;
            this.inputs = inputs;
            this.bits = bits;
        }

        @Override
        public boolean has(Line.Info info) {
            AudioFormat format = ((DataLine.Info) info).getFormats()[0];
            int most = info.getLineClass() == SourceDataLine.class ? outputs : inputs;
            return format.getChannels() <= most && format.getSampleSizeInBits() <= bits;
        }

        @Override
        public Line open(Line.Info info) throws LineUnavailableException {
            if (busy) {
                throw new LineUnavailableException("in use");
            }
            boolean source = info.getLineClass() == SourceDataLine.class;
            AudioFormat format = ((DataLine.Info) info).getFormats()[0];
            Class<?> kind = source ? SourceDataLine.class : TargetDataLine.class;
            int[] buffer = {0};
            InvocationHandler answers = (line, method, args) -> switch (method.getName()) {
                case "open" -> {
                    buffer[0] = (int) args[1];
                    yield null;
                }
                case "getFormat" -> format;
                case "getBufferSize" -> buffer[0];
                case "isOpen" -> !unplugged;
                case "write" -> write((byte[]) args[0], (int) args[2]);
                case "read" -> read((byte[]) args[0], (int) args[2]);
                case "flush" -> {
                    cable.clear();
                    yield null;
                }
                case "start", "stop", "close" -> null;
                default -> throw new AssertionError("not expected: " + method);
            };
            return (Line) Proxy.newProxyInstance(kind.getClassLoader(), new Class<?>[] {kind}, answers);
        }

        private int write(byte[] bytes, int count) {
            if (unplugged) {
                return 0;
            }
            for (int i = 0; i < count; i++) {
                cable.add(bytes[i]);
            }
            return count;
        }

        private int read(byte[] bytes, int count) {
            if (unplugged) {
                return 0;
            }
            for (int i = 0; i < count; i++) {
                bytes[i] = cable.isEmpty() ? 0 : cable.remove();
            }
            return count;
        }
    }

    @ParameterizedTest
    @CsvSource({"8, 24, 1e-6", "8, 16, 4e-5", "2, 24, 1e-6", "4, 16, 4e-5"})
    void every_output_comes_in_by_its_own_input_always_as_late(int channels, int bits, double step) throws Exception {
        JavaSoundPort port = new JavaSoundPort("Box", new Device(channels, channels, bits));
        port.open(48_000, BLOCK);
        assertThat(port.outputs()).isEqualTo(channels);
        assertThat(port.inputs()).isEqualTo(channels);
        float[][] sent = new float[channels][40 * BLOCK];
        for (int p = 0; p < channels; p++) {
            sent[p] = Signals.noise(0.5, 40 * BLOCK, p);
        }
        float[][] back = new float[channels][40 * BLOCK];
        float[][] in = new float[channels][BLOCK];
        float[][] out = new float[channels][BLOCK];
        for (int at = 0; at < 40 * BLOCK; at += BLOCK) {
            port.read(in, BLOCK);
            for (int p = 0; p < channels; p++) {
                System.arraycopy(in[p], 0, back[p], at, BLOCK);
                System.arraycopy(sent[p], at, out[p], 0, BLOCK);
            }
            port.write(out, BLOCK);
        }
        // Seven blocks of silence lie between.
        int late = 7 * BLOCK;
        for (int p = 0; p < channels; p++) {
            for (int i = late; i < 40 * BLOCK; i++) {
                assertThat((double) back[p][i]).isCloseTo(sent[p][i - late], within(step));
            }
        }
        assertThat(port.roundTripFrames()).isEqualTo(9 * BLOCK);
        port.close();
    }

    @Test
    void what_is_beyond_full_scale_is_held_there() throws Exception {
        for (int bits : new int[] {16, 24}) {
            JavaSoundPort port = new JavaSoundPort("", new Device(2, 2, bits));
            port.open(48_000, BLOCK);
            float[][] block = new float[2][BLOCK];
            block[0][0] = 3;
            block[1][0] = -3;
            float[][] in = new float[2][BLOCK];
            port.read(in, BLOCK);
            port.write(block, BLOCK);
            for (int b = 0; b < 7; b++) {
                port.read(in, BLOCK);
                port.write(new float[2][BLOCK], BLOCK);
            }
            assertThat(in[0][0]).isCloseTo(1, within(1e-4f));
            assertThat(in[1][0]).isCloseTo(-1, within(1e-4f));
        }
    }

    @Test
    void the_usual_device_is_taken_as_stereo_however_much_it_says_it_has() throws Exception {
        JavaSoundPort port = new JavaSoundPort("", new Device(32, 32, 24));
        port.open(48_000, BLOCK);
        assertThat(port.outputs()).isEqualTo(2);
        assertThat(port.inputs()).isEqualTo(2);
    }

    @Test
    void a_device_without_inputs_is_heard_all_the_same() throws Exception {
        JavaSoundPort port = new JavaSoundPort("Loudspeakers", new Device(2, 0, 16));
        port.open(48_000, BLOCK);
        assertThat(port.name()).isEqualTo("Loudspeakers");
        assertThat(port.inputs()).isZero();
        port.read(new float[0][0], BLOCK);
        port.write(new float[2][BLOCK], BLOCK);
        assertThat(port.gone()).isFalse();
    }

    @Test
    void a_device_that_goes_away_lets_the_song_run_on_in_time_and_silence() throws Exception {
        Device device = new Device(2, 2, 16);
        JavaSoundPort port = new JavaSoundPort("", device);
        port.open(48_000, BLOCK);
        float[][] in = new float[2][BLOCK];
        port.read(in, BLOCK);
        port.write(new float[2][BLOCK], BLOCK);
        device.unplugged = true;
        in[0][0] = 1;
        port.read(in, BLOCK);
        assertThat(in[0][0]).isZero();
        port.write(new float[2][BLOCK], BLOCK);
        assertThat(port.gone()).isTrue();
        long began = System.nanoTime();
        for (int b = 0; b < 75; b++) {
            port.read(in, BLOCK);
            port.write(new float[2][BLOCK], BLOCK);
        }
        // A tenth of a second, less what the clock lets run ahead at both ends.
        assertThat(System.nanoTime() - began).isGreaterThan(50_000_000L);
    }

    @Test
    void a_device_in_use_and_one_that_is_not_there_are_refused_by_name() {
        Device busy = new Device(2, 2, 16);
        busy.busy = true;
        assertThatExceptionOfType(DeviceException.class)
                .isThrownBy(() -> new JavaSoundPort("Box", busy).open(48_000, BLOCK))
                .withMessageContaining("The device Box cannot be opened at 48000 Hz.");
        assertThatExceptionOfType(DeviceException.class)
                .isThrownBy(() -> new JavaSoundPort("No such box").open(48_000, BLOCK))
                .withMessageContaining("choose another device in Outboard");
        assertThat(JavaSoundPort.available("No such box", 48_000)).isFalse();
    }
}
