package waterwheel.core.playback;

import static org.assertj.core.api.Assertions.assertThat;

import java.nio.file.Path;
import java.util.Arrays;
import java.util.List;
import java.util.concurrent.locks.LockSupport;
import java.util.function.BooleanSupplier;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.DisplayNameGeneration;
import org.junit.jupiter.api.DisplayNameGenerator;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.Timeout;
import org.junit.jupiter.api.io.TempDir;
import waterwheel.core.edit.NoteEdits;
import waterwheel.core.engine.Media;
import waterwheel.core.instruments.Instrument;
import waterwheel.core.instruments.Region;
import waterwheel.core.notes.Note;
import waterwheel.core.notes.Notes;
import waterwheel.core.ports.ForwardingPort;
import waterwheel.core.rack.Rack;
import waterwheel.core.session.ChannelId;
import waterwheel.core.session.Session;
import waterwheel.core.simulation.SimulatedInterface;
import waterwheel.core.sources.SourceId;
import waterwheel.core.testing.Sessions;

/** An instrument played by hand is heard through its channel, while the song stands and while it runs. */
@DisplayNameGeneration(DisplayNameGenerator.ReplaceUnderscores.class)
@Timeout(60)
class PlayedByHandTest {
    private static final float LEVEL = 0.25f;

    @TempDir
    Path folder;

    @SuppressWarnings("NullAway.Init")
    private Session session;

    /** The last sample of each block that goes out. */
    private static final class Heard extends ForwardingPort {
        private volatile float left;
        private volatile long blocks;

        Heard() {
            super(new SimulatedInterface(Rack.NONE, true));
        }

        @Override
        public void write(float[][] out, int frames) {
            super.write(out, frames);
            left = out[0][frames - 1];
            // Only the playing thread writes.
            long count = blocks + 1;
            blocks = count;
        }
    }

    /** A sampler whose sample is a constant, at its first output and, half as loud, at its second; it plays one late note. */
    @BeforeEach
    void a_constant_as_an_instrument() throws Exception {
        float[] constant = new float[1_000];
        Arrays.fill(constant, LEVEL);
        Session files = new Sessions(folder).track("constant", "main", constant).build();
        SourceId source = new SourceId("constant");
        Session plain = files.withChannels(List.of(files.main()));
        Region one = new Region(source, 0, 59, 1, 127, 60, 0, Region.Loop.CONTINUOUS, 0, 0, 0.01, 0, 0, 1, 1, 1);
        Region two =
                new Region(source, 60, 127, 1, 127, 60, 0, Region.Loop.CONTINUOUS, 0, 0, 0.01, -6.0206, 0, 1, 1, 2);
        Notes notes = Notes.none(Sessions.RATE).withNotes(List.of(new Note(20L * Sessions.RATE, 100, 30, 127)));
        session = NoteEdits.addInstrument("Constant", new Instrument.Sampler("C", List.of(one, two)), notes, List.of())
                .apply(plain);
    }

    private static void until(String what, BooleanSupplier reached) {
        long end = System.nanoTime() + 10_000_000_000L;
        while (!reached.getAsBoolean() && System.nanoTime() < end) {
            LockSupport.parkNanos(1_000_000);
        }
        assertThat(reached.getAsBoolean()).as(what).isTrue();
    }

    /** Waits until what is heard is a level, and stays that for some blocks. */
    private static void hears(Heard port, double level) {
        until("heard " + level + ", was " + port.left, () -> {
            for (int block = 0; block < 5; block++) {
                long count = port.blocks;
                long end = System.nanoTime() + 100_000_000;
                while (port.blocks == count && System.nanoTime() < end) {
                    LockSupport.parkNanos(200_000);
                }
                if (Math.abs(port.left - level) > 1e-4) {
                    return false;
                }
            }
            return true;
        });
    }

    @Test
    void keys_are_heard_standing_and_running_and_let_go() throws Exception {
        ChannelId player = session.tracks().getFirst().id();
        Heard port = new Heard();
        try (Media media = Media.open(session, folder);
                Player playing = new Player(session, media, port)) {
            assertThat(playing.keys()).isEmpty();
            playing.playByHand(player);
            until("ready", () -> playing.keys().isPresent());
            playing.keys().orElseThrow().press(40, 127);
            hears(port, LEVEL);
            // Another output goes its own way, to a track of its own.
            playing.keys().orElseThrow().press(70, 127);
            hears(port, 1.5 * LEVEL);
            playing.start();
            hears(port, 1.5 * LEVEL);
            playing.keys().orElseThrow().letGo(40);
            hears(port, 0.5 * LEVEL);
            // A change of values while a key is held.
            playing.use(session.withStrip(session.mainId(), s -> s.withFaderDb(-6.0206)), media);
            hears(port, 0.25 * LEVEL);
            // The pedal holds what is let go.
            playing.keys().orElseThrow().pedal(true);
            playing.keys().orElseThrow().letGo(70);
            hears(port, 0.25 * LEVEL);
            playing.keys().orElseThrow().pedal(false);
            hears(port, 0);
            long before = playing.playedFrame();
            until("goes on", () -> playing.playedFrame() > before + 1_000);
            playing.stop();
            playing.keys().orElseThrow().press(40, 127);
            hears(port, 0.5 * LEVEL);
            playing.playByHand(null);
            until("ended", () -> playing.keys().isEmpty());
        }
    }
}
