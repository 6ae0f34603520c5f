package waterwheel.core.playback;

import static org.assertj.core.api.Assertions.assertThat;

import java.nio.file.Path;
import java.util.Arrays;
import java.util.List;
import java.util.Set;
import java.util.concurrent.locks.LockSupport;
import org.junit.jupiter.api.DisplayNameGeneration;
import org.junit.jupiter.api.DisplayNameGenerator;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.Timeout;
import org.junit.jupiter.api.io.TempDir;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.EnumSource;
import waterwheel.core.edit.InputEdits;
import waterwheel.core.engine.Media;
import waterwheel.core.path.Stage;
import waterwheel.core.rides.Curve;
import waterwheel.core.rides.CurvePoint;
import waterwheel.core.rides.Ride;
import waterwheel.core.session.ControlId;
import waterwheel.core.session.Controls;
import waterwheel.core.session.Listen;
import waterwheel.core.session.Session;
import waterwheel.core.session.Strip;
import waterwheel.core.session.Track;
import waterwheel.core.testing.Sessions;

/** Tracks that inputs feed, heard while the song stands and while it runs. */
@DisplayNameGeneration(DisplayNameGenerator.ReplaceUnderscores.class)
@Timeout(60)
class ListeningTest {
    /** What comes in, and what was recorded before: told apart by their level. */
    private static final float LIVE = 0.5f;

    private static final float RECORDED = 0.125f;

    @TempDir
    Path folder;

    /** An interface at whose third input a constant comes in. */
    private static final class Constant extends HeardPort {
        private volatile float level = LIVE;

        @Override
        public void read(float[][] in, int frames) {
            super.read(in, frames);
            Arrays.fill(in[2], 0, frames, level);
        }
    }

    private Session session(Listen listen) throws Exception {
        float[] constant = new float[10 * Sessions.RATE];
        Arrays.fill(constant, RECORDED);
        Session plain = new Sessions(folder).track("one", "main", constant).build();
        Track track = plain.tracks().getFirst();
        Session fed = InputEdits.input(track, 3).apply(plain);
        return InputEdits.listen(fed.tracks().getFirst(), listen).apply(fed);
    }

    /** Waits until the left output is what a level comes to behind the pan law, and stays that. */
    private static void hears(Constant port, double level) {
        port.hears(level * Math.sqrt(0.5), 1e-5);
    }

    @ParameterizedTest
    @EnumSource(Listen.class)
    void an_input_is_heard_when_its_track_says_so(Listen listen) throws Exception {
        Session session = session(listen);
        Constant port = new Constant();
        double always = listen == Listen.ALWAYS ? LIVE : 0;
        double standing = listen == Listen.NEVER ? 0 : LIVE;
        try (Media media = Media.open(session, folder);
                Player player = new Player(session, media, port)) {
            hears(port, standing);
            player.start();
            hears(port, RECORDED + always);
            // While it is recorded it plays nothing back.
            player.record((in, frames, at) -> {}, Set.of(Sessions.id("one")));
            hears(port, standing);
            player.recordNothing();
            hears(port, RECORDED + always);
            player.stop();
            hears(port, standing);
        }
    }

    @Test
    void another_choice_is_heard_at_once_and_no_input_lets_the_interface_rest() throws Exception {
        Session session = session(Listen.NEVER);
        Constant port = new Constant();
        try (Media media = Media.open(session, folder);
                Player player = new Player(session, media, port)) {
            hears(port, 0);
            Track track = session.tracks().getFirst();
            player.use(InputEdits.listen(track, Listen.ALWAYS).apply(session), media);
            hears(port, LIVE);
            player.use(InputEdits.noInput(track).apply(session), media);
            HeardPort.until("rests", () -> {
                long before = port.blocks;
                LockSupport.parkNanos(100_000_000);
                return port.blocks == before;
            });
        }
    }

    @Test
    void while_the_song_stands_a_ride_stands_where_the_song_does() throws Exception {
        ControlId fader = ControlId.ofStrip(Sessions.id("one"), Strip.FADER.key());
        Session ridden = Controls.with(
                session(Listen.ALWAYS),
                fader,
                Ride.of(new Curve(List.of(
                        new CurvePoint(0, -20, CurvePoint.Shape.LINE),
                        new CurvePoint(100_000, -20, CurvePoint.Shape.LINE),
                        new CurvePoint(200_000, 0, CurvePoint.Shape.LINE)))));
        Constant port = new Constant();
        try (Media media = Media.open(ridden, folder);
                Player player = new Player(ridden, media, port)) {
            hears(port, 0.1 * LIVE);
            player.seek(300_000);
            hears(port, LIVE);
            player.seek(150_000);
            hears(port, Math.pow(10, -10 / 20.0) * LIVE);
        }
    }

    @Test
    void an_input_shows_its_level_whether_or_not_it_is_heard_and_holds_its_peak() throws Exception {
        Session session = session(Listen.NEVER);
        Constant port = new Constant();
        try (Media media = Media.open(session, folder);
                Player player = new Player(session, media, port)) {
            hears(port, 0);
            assertThat(player.inputMeters()).hasSize(8);
            assertThat(player.inputMeters().get(2).peakDbfs()).isEqualTo(20 * Math.log10(LIVE));
            assertThat(player.inputMeters().get(3).peakDbfs()).isEqualTo(Double.NEGATIVE_INFINITY);
            // Nothing of it is in the track.
            assertThat(player.takePeaks().at(Sessions.id("one"), Stage.SOURCE)).isZero();
            port.level = 0.25f;
            LockSupport.parkNanos(50_000_000);
            assertThat(player.inputMeters().get(2).peakDbfs()).isEqualTo(20 * Math.log10(LIVE));
            player.resetInputMeters();
            HeardPort.until("begins anew", () -> player.inputMeters().get(2).peakDbfs() == 20 * Math.log10(0.25));
        }
    }

    @Test
    void what_howls_is_not_listened_to_any_more_until_one_asks_for_it() throws Exception {
        Session session = session(Listen.ALWAYS);
        Constant port = new Constant();
        try (Media media = Media.open(session, folder);
                Player player = new Player(session, media, port)) {
            hears(port, LIVE);
            port.level = 1;
            HeardPort.until("guards", player::howled);
            hears(port, 0);
            port.level = LIVE;
            hears(port, 0);
            player.listenAgain();
            hears(port, LIVE);
        }
    }
}
