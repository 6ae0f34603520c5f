package waterwheel.core.playback;

import static org.assertj.core.api.Assertions.assertThat;

import java.nio.file.Path;
import java.util.List;
import java.util.Optional;
import java.util.OptionalDouble;
import java.util.concurrent.locks.LockSupport;
import java.util.function.UnaryOperator;
import org.junit.jupiter.api.DisplayNameGeneration;
import org.junit.jupiter.api.DisplayNameGenerator;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.Timeout;
import org.junit.jupiter.api.io.TempDir;
import waterwheel.core.engine.Media;
import waterwheel.core.inserts.Insert;
import waterwheel.core.inserts.SlotId;
import waterwheel.core.ports.AudioPort;
import waterwheel.core.ports.ForwardingPort;
import waterwheel.core.ports.SilentPort;
import waterwheel.core.processing.HardwareLoop;
import waterwheel.core.rack.Cable;
import waterwheel.core.rack.Device;
import waterwheel.core.rack.Driver;
import waterwheel.core.rack.Loop;
import waterwheel.core.rack.LoopTiming;
import waterwheel.core.rack.Rack;
import waterwheel.core.session.Output;
import waterwheel.core.session.Session;
import waterwheel.core.simulation.SimulatedInterface;
import waterwheel.core.testing.Renders;
import waterwheel.core.testing.Sessions;
import waterwheel.core.testing.Signals;

/** Playing through an interface: what leaves by which port, and loops that run while the song does. */
@DisplayNameGeneration(DisplayNameGenerator.ReplaceUnderscores.class)
@Timeout(60)
class LiveLoopTest {
    private static final int FRAMES = 48_000;
    private static final int CABLE_FRAMES = Device.USUAL_BLOCK_FRAMES + 64;

    @TempDir
    Path folder;

    /** A port whose outputs are remembered. */
    private static final class Recorded extends ForwardingPort {
        private final float[][] out = new float[8][2 * FRAMES];
        private volatile int frames;

        Recorded(AudioPort port) {
            super(port);
        }

        @Override
        public void write(float[][] written, int count) {
            for (int p = 0; p < written.length; p++) {
                System.arraycopy(written[p], 0, out[p], frames, count);
            }
            super.write(written, count);
            // Only the playing thread writes.
            int end = frames + count;
            frames = end;
        }
    }

    private Session session() throws Exception {
        return new Sessions(folder)
                .track("one", "main", Signals.noise(0.2, FRAMES, 1))
                .track("two", "main", Signals.noise(0.2, FRAMES, 2))
                .build()
                .withRack(new Rack(
                        Driver.SIMULATED, 1, List.of(), List.of(), List.of(new Cable(Optional.empty(), 5, 5))));
    }

    private static Session looped(Session session, UnaryOperator<Insert> change) {
        LoopTiming timing = new LoopTiming(
                CABLE_FRAMES,
                false,
                0,
                Double.NEGATIVE_INFINITY,
                OptionalDouble.empty(),
                Double.NEGATIVE_INFINITY,
                100,
                Sessions.RATE,
                Device.USUAL_BLOCK_FRAMES,
                SimulatedInterface.NAME);
        Insert slot = Insert.of(new SlotId("hw"), HardwareLoop.KIND)
                .withLoop(new Loop(Optional.empty(), 5, 5, Optional.of(timing), Optional.empty()));
        return session.withStrip(Sessions.id("one"), s -> s.withInserts(List.of(change.apply(slot))));
    }

    /** Plays the song to its end; what was written until the first frame of the song sounded is left out. */
    private Recorded played(Session session) throws Exception {
        return played(session, new SimulatedInterface(session.rack(), false));
    }

    private Recorded played(Session session, AudioPort by) throws Exception {
        Recorded port = new Recorded(by);
        try (Media media = Media.open(session, folder);
                Player player = new Player(session, media, port)) {
            player.start();
            while (player.playing()) {
                LockSupport.parkNanos(1_000_000);
            }
        }
        return port;
    }

    /** The largest difference of a port from a signal, dBFS, once the fade at the start is over. */
    private static double differenceDb(Recorded port, int output, float[] wanted, int late) {
        double most = 0;
        for (int i = 1_000; i < FRAMES; i++) {
            most = Math.max(most, Math.abs((double) port.out[output - 1][i + late] - wanted[i]));
        }
        return 20 * Math.log10(most);
    }

    @Test
    void a_song_through_a_live_cable_is_the_song_without_it_from_its_first_frame_on() throws Exception {
        Session dry = session();
        float[][] mix = new Renders(folder).mix(dry);
        Recorded port = played(looped(dry, i -> i));
        // The loop is run for as long as it is late before anything is heard, and then nothing is missing.
        assertThat(port.frames).isEqualTo(FRAMES + CABLE_FRAMES);
        assertThat(differenceDb(port, 1, mix[0], CABLE_FRAMES)).isLessThan(-120);
        assertThat(differenceDb(port, 2, mix[1], CABLE_FRAMES)).isLessThan(-120);
    }

    @Test
    void bypassed_it_takes_the_same_time_and_sends_nothing_less() throws Exception {
        Session dry = session();
        float[][] mix = new Renders(folder).mix(dry);
        Recorded port = played(looped(dry, i -> i.withBypassed(true)));
        assertThat(port.frames).isEqualTo(FRAMES + CABLE_FRAMES);
        assertThat(differenceDb(port, 1, mix[0], CABLE_FRAMES)).isLessThan(-140);
    }

    @Test
    void what_a_loop_sends_leaves_by_its_output_with_the_send_gain() throws Exception {
        Session dry = session();
        Recorded port = played(looped(dry, i -> i.withInputDb(-6)));
        float[] sent = Signals.noise(0.2, FRAMES, 1);
        for (int i = 0; i < sent.length; i++) {
            sent[i] *= (float) Math.pow(10, -6 / 20.0);
        }
        assertThat(differenceDb(port, 5, sent, 0)).isLessThan(-120);
    }

    @Test
    void a_channel_on_a_pair_of_its_own_is_heard_there_and_the_monitor_where_it_is_set() throws Exception {
        Session apart = session().withStrip(Sessions.id("two"), s -> s.withOutput(new Output.ToInterface(2)));
        Session session = apart.withRack(apart.rack().withMonitorPair(4));
        Recorded port = played(session);
        float[][] mix = new Renders(folder).mix(session);
        assertThat(differenceDb(port, 7, mix[0], 0)).isLessThan(-140);
        float[] two = Signals.noise(0.2, FRAMES, 2);
        for (int i = 0; i < two.length; i++) {
            two[i] *= (float) Math.sqrt(0.5);
        }
        assertThat(differenceDb(port, 3, two, 0)).isLessThan(-120);
        assertThat(differenceDb(port, 4, two, 0)).isLessThan(-120);
        assertThat(port.out[0]).containsOnly(0f);
    }

    @Test
    void without_the_interface_the_session_plays_what_was_captured_or_nothing() throws Exception {
        Session session = looped(session(), i -> i);
        // And where the monitor's pair is not there, it is heard on the first.
        Session offline =
                session.withRack(session.rack().withDriver(Driver.SYSTEM).withMonitorPair(3));
        Recorded port = played(offline, new SilentPort());
        // Track two alone: nothing comes back of one.
        float[] two = Signals.noise(0.2, FRAMES, 2);
        double most = 0;
        for (int i = 1_000; i < FRAMES; i++) {
            most = Math.max(most, Math.abs(port.out[0][i] - two[i] * Math.sqrt(0.5)));
        }
        assertThat(20 * Math.log10(most)).isLessThan(-120);
    }
}
