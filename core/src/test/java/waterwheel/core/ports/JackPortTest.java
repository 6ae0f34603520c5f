package waterwheel.core.ports;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatExceptionOfType;
import static org.junit.jupiter.api.Assumptions.assumeTrue;

import java.io.File;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.List;
import java.util.concurrent.TimeUnit;
import java.util.concurrent.locks.LockSupport;
import java.util.stream.Stream;
import org.jspecify.annotations.Nullable;
import org.junit.jupiter.api.AfterAll;
import org.junit.jupiter.api.BeforeAll;
import org.junit.jupiter.api.DisplayNameGeneration;
import org.junit.jupiter.api.DisplayNameGenerator;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.Timeout;
import waterwheel.core.errors.DeviceException;

/**
 * The ports of a server on its driver without a device, patched to each other. Runs where such a server can be started
 * or runs already at 48,000 Hz, and is reported as not run elsewhere.
 */
@DisplayNameGeneration(DisplayNameGenerator.ReplaceUnderscores.class)
@Timeout(60)
class JackPortTest {
    private static final int RATE = 48_000;
    private static final int BLOCK = 256;

    private static @Nullable Process server;

    @BeforeAll
    static void a_server_runs() throws Exception {
        if (!JackPort.available() && installed()) {
            server = new ProcessBuilder("jackd", "-r", "-d", "dummy", "-r", "" + RATE, "-p", "" + BLOCK)
                    .redirectErrorStream(true)
                    .redirectOutput(ProcessBuilder.Redirect.DISCARD)
                    .start();
            for (int i = 0; i < 100 && !JackPort.available(); i++) {
                LockSupport.parkNanos(50_000_000);
            }
        }
        assumeTrue(JackPort.available(), "no sound server can be started here");
    }

    private static boolean installed() {
        return Stream.of(System.getenv().getOrDefault("PATH", "").split(File.pathSeparator))
                .anyMatch(folder -> Files.isExecutable(Path.of(folder, "jackd")));
    }

    @AfterAll
    static void it_ends() throws Exception {
        if (server != null) {
            server.destroy();
            server.waitFor(10, TimeUnit.SECONDS);
        }
    }

    private static JackPort opened() throws Exception {
        JackPort port = new JackPort();
        port.open(RATE, BLOCK);
        return port;
    }

    /** When an impulse comes back, in frames; on a busy machine one may come too late and be dropped, so a few are sent. */
    private static int arrival(JackPort port) {
        int found = -1;
        for (int i = 0; i < 5 && found < 0; i++) {
            found = impulse(port);
        }
        return found;
    }

    /** Sends an impulse by output 1 and returns when it came back to input 1, in frames; -1 where it did not. */
    private static int impulse(JackPort port) {
        float[][] in = new float[port.inputs()][BLOCK];
        float[][] out = new float[port.outputs()][BLOCK];
        int found = -1;
        // The server takes a moment to connect, and the compiler one to warm up.
        for (int block = 0; block < 400; block++) {
            port.read(in, BLOCK);
            out[0][17] = block == 300 ? 0.5f : 0;
            port.write(out, BLOCK);
            for (int i = 0; block > 300 && i < BLOCK && found < 0; i++) {
                if (Math.abs(in[0][i]) > 0.4f) {
                    found = (block - 300) * BLOCK + i - 17;
                }
            }
        }
        return found;
    }

    @Test
    void what_is_written_comes_back_each_time_after_the_same_number_of_frames() throws Exception {
        int first;
        try (JackPort port = opened()) {
            assertThat(port.inputs()).isGreaterThanOrEqualTo(2);
            assertThat(port.outputs()).isGreaterThanOrEqualTo(2);
            assertThat(port.patch(1, 1)).isTrue();
            first = arrival(port);
            assertThat(first).isPositive();
            assertThat(arrival(port)).isEqualTo(first);
            // After a pause everything begins anew and takes as long as before.
            LockSupport.parkNanos(600_000_000);
            assertThat(arrival(port)).isEqualTo(first);
        }
        try (JackPort again = opened()) {
            again.patch(1, 1);
            assertThat(arrival(again)).isEqualTo(first);
        }
    }

    @Test
    void the_server_is_the_clock() throws Exception {
        try (JackPort port = opened()) {
            float[][] in = new float[port.inputs()][BLOCK];
            float[][] out = new float[port.outputs()][BLOCK];
            for (int block = 0; block < 50; block++) {
                port.read(in, BLOCK);
                port.write(out, BLOCK);
            }
            long began = System.nanoTime();
            for (int block = 0; block < 188; block++) {
                port.read(in, BLOCK);
                port.write(out, BLOCK);
            }
            // Later is the machine's doing, earlier the port's own; what the rings hold may run ahead.
            assertThat((System.nanoTime() - began) * 1e-9).isGreaterThan(188.0 * BLOCK / RATE - 0.05);
        }
    }

    @Test
    void a_session_of_another_rate_is_refused_with_both_rates() {
        JackPort port = new JackPort();
        assertThatExceptionOfType(DeviceException.class)
                .isThrownBy(() -> port.open(44_100, BLOCK))
                .withMessageContaining("runs at 48000 Hz, and the session at 44100 Hz");
        assertThat(List.of(port.inputs(), port.outputs())).containsExactly(0, 0);
    }

    @Test
    void when_the_server_ends_the_port_goes_on_in_silence_and_in_time() throws Exception {
        assumeTrue(server != null, "a server that others use is not ended");
        try (JackPort port = opened()) {
            float[][] in = new float[port.inputs()][BLOCK];
            float[][] out = new float[port.outputs()][BLOCK];
            for (int block = 0; block < 20; block++) {
                port.read(in, BLOCK);
                port.write(out, BLOCK);
            }
            assertThat(port.gone()).isFalse();
            it_ends();
            long began = System.nanoTime();
            for (int block = 0; block < 750; block++) {
                port.read(in, BLOCK);
                port.write(out, BLOCK);
            }
            assertThat(port.gone()).isTrue();
            assertThat(in[0]).containsOnly(0f);
            assertThat((System.nanoTime() - began) * 1e-9).isGreaterThan(3);
        }
        a_server_runs();
    }
}
