package waterwheel.core.playback;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.within;

import java.nio.file.Path;
import java.util.List;
import java.util.SplittableRandom;
import java.util.concurrent.locks.LockSupport;
import java.util.function.BooleanSupplier;
import java.util.stream.IntStream;
import org.junit.jupiter.api.AfterEach;
import org.junit.jupiter.api.DisplayNameGeneration;
import org.junit.jupiter.api.DisplayNameGenerator;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import waterwheel.core.engine.Media;
import waterwheel.core.engine.Plan;
import waterwheel.core.engine.SignalId;
import waterwheel.core.inserts.Insert;
import waterwheel.core.inserts.SlotId;
import waterwheel.core.ports.AudioPort;
import waterwheel.core.ports.SilentPort;
import waterwheel.core.processing.Equaliser;
import waterwheel.core.session.Session;
import waterwheel.core.testing.Sessions;
import waterwheel.core.testing.Signals;

@DisplayNameGeneration(DisplayNameGenerator.ReplaceUnderscores.class)
class PlayerTest {
    /** Takes everything at once and remembers it. */
    private static final class RecordingPort implements AudioPort {
        private final float[] left = new float[48_000 * 20];
        private volatile int frames;

        @Override
        public String name() {
            return "Recorder";
        }

        @Override
        public boolean silent() {
            return false;
        }

        @Override
        public void open(int sampleRateHz, int maxFrames) {}

        @Override
        public void write(float[][] out, int count) {
            System.arraycopy(out[0], 0, left, frames, count);
            // Only the playing thread writes.
            int end = frames + count;
            frames = end;
            LockSupport.parkNanos(200_000);
        }

        @Override
        public void close() {}

        /** The peak of the last two waves, dBFS. */
        double recentDb() {
            int end = frames;
            float most = 0;
            for (int i = Math.max(0, end - 960); i < end; i++) {
                most = Math.max(most, Math.abs(left[i]));
            }
            return 20 * Math.log10(most);
        }

        /** The largest step between neighbouring samples. */
        float steepest(int from, int to) {
            float most = 0;
            for (int i = from + 1; i < to; i++) {
                most = Math.max(most, Math.abs(left[i] - left[i - 1]));
            }
            return most;
        }
    }

    @TempDir
    Path folder;

    private final RecordingPort port = new RecordingPort();

    private static void until(BooleanSupplier condition) throws InterruptedException {
        for (int i = 0; i < 2_000 && !condition.getAsBoolean(); i++) {
            Thread.sleep(5);
        }
        assertThat(condition.getAsBoolean()).as("within 10 s").isTrue();
    }

    /** A slow wave, so that any click stands out: its own steps are below 0.007. */
    private Session wave() throws Exception {
        return new Sessions(folder)
                .track("wave", "main", Signals.sine(100, -6, 48_000, 8), Signals.sine(100, -6, 48_000, 8))
                .build();
    }

    private static final float OWN_STEPS = 0.0070f;

    @AfterEach
    void nothing_was_over() {
        assertThat(port.steepest(0, Math.max(1, port.frames))).isLessThan(0.02f);
    }

    @Test
    void a_fader_moved_while_playing_makes_no_click_and_arrives() throws Exception {
        Session session = wave();
        try (Media media = Media.open(session, folder);
                Player player = new Player(session, media, port)) {
            player.start();
            until(() -> port.frames > 20_000);
            player.use(session.withStrip(Sessions.id("wave"), s -> s.withFaderDb(-12)), media);
            until(() -> Math.abs(port.recentDb() + 18) < 0.1);
            // Over 20 ms a gain falls by 0.75 of 0.5: 0.0004 a sample beside the wave's own steps.
            assertThat(port.steepest(1_000, port.frames)).isLessThan(OWN_STEPS + 0.001f);
        }
    }

    @Test
    void only_another_shape_begins_another_run() throws Exception {
        Session session = wave();
        try (Media media = Media.open(session, folder);
                Player player = new Player(session, media, port)) {
            Plan began = player.plan();
            player.start();
            Session moved = session;
            for (int i = 0; i < 30; i++) {
                double part = i / 30.0;
                moved = session.withStrip(Sessions.id("wave"), s -> s.withFaderDb(-12 * part)
                        .withPlacement(s.placement().withPosition(part)));
                player.use(moved, media);
                Thread.sleep(8);
            }
            Session last = moved.withStrip(Sessions.id("wave"), s -> s.withFaderDb(-30));
            player.use(last, media);
            until(() -> Math.abs(port.recentDb() + 36) < 3);
            assertThat(player.plays(began)).isTrue();
            player.use(
                    last.withStrip(
                            Sessions.id("wave"),
                            s -> s.withInserts(List.of(Insert.of(new SlotId("1"), Equaliser.KIND)))),
                    media);
            until(() -> !player.plays(began));
        }
    }

    /** While two runs cross a third waits; what is stopped then must not keep it waiting until the song is started again. */
    @Test
    void a_change_of_routing_is_taken_after_a_stop_amid_another() throws Exception {
        Session session = wave();
        try (Media media = Media.open(session, folder);
                Player player = new Player(session, media, port)) {
            for (int round = 1; round <= 10; round++) {
                Plan began = player.plan();
                player.start();
                int before = port.frames;
                until(() -> port.frames > before + 2_000);
                player.use(inserted(session, 2 * round), media);
                // A stop some milliseconds later would come after the crossing.
                for (long end = System.nanoTime() + 10_000_000_000L; player.plays(began) && System.nanoTime() < end; ) {
                    Thread.onSpinWait();
                }
                Plan crossed = player.plan();
                player.stop();
                player.use(inserted(session, 2 * round + 1), media);
                until(() -> !player.plays(crossed));
                assertThat(player.playing()).isFalse();
            }
        }
    }

    /** Another number of inserts is another shape. */
    private static Session inserted(Session session, int number) {
        return session.withStrip(
                Sessions.id("wave"),
                s -> s.withInserts(IntStream.range(0, number)
                        .mapToObj(i -> Insert.of(new SlotId("" + i), Equaliser.KIND))
                        .toList()));
    }

    @Test
    void the_last_of_many_seeks_is_taken() throws Exception {
        Session session = wave();
        try (Media media = Media.open(session, folder);
                Player player = new Player(session, media, port)) {
            player.start();
            SplittableRandom random = new SplittableRandom(1);
            for (int round = 0; round < 20; round++) {
                for (int i = 0; i < 50; i++) {
                    player.seek(random.nextInt(200_000));
                }
                player.seek(240_000);
                assertThat(player.position()).isGreaterThanOrEqualTo(240_000);
                Thread.sleep(12);
                assertThat(player.position()).isBetween(240_000L, 380_000L);
            }
        }
    }

    @Test
    void a_track_that_is_added_while_playing_is_heard() throws Exception {
        Session before = wave();
        Session after = new Sessions(folder)
                .track("wave", "main", Signals.sine(100, -6, 48_000, 8), Signals.sine(100, -6, 48_000, 8))
                .track("second", "main", Signals.sine(100, -12, 48_000, 8), Signals.sine(100, -12, 48_000, 8))
                .build();
        try (Media first = Media.open(before, folder);
                Media second = Media.open(after, folder);
                Player player = new Player(before, first, port)) {
            player.start();
            until(() -> port.frames > 20_000);
            player.use(after, second);
            // Two waves in phase: 0.501 + 0.251.
            until(() -> Math.abs(port.recentDb() + 2.47) < 0.05);
        }
    }

    @Test
    void of_many_changes_in_a_row_the_last_is_heard() throws Exception {
        Session session = wave();
        try (Media media = Media.open(session, folder);
                Player player = new Player(session, media, port)) {
            player.start();
            until(() -> port.frames > 10_000);
            for (int i = 1; i <= 200; i++) {
                double fader = -0.1 * i;
                player.use(session.withStrip(Sessions.id("wave"), s -> s.withFaderDb(fader)), media);
            }
            until(() -> Math.abs(port.recentDb() + 26) < 0.05);
            int arrived = port.frames;
            until(() -> port.frames > arrived + 5_000);
            assertThat(port.recentDb()).isCloseTo(-26, within(0.05));
        }
    }

    @Test
    void a_jump_and_a_stop_are_faded() throws Exception {
        Session session = wave();
        try (Media media = Media.open(session, folder);
                Player player = new Player(session, media, port)) {
            player.start();
            until(() -> port.frames > 10_000);
            player.seek(200_120);
            until(() -> player.position() > 201_000);
            player.stop();
            int stopped = port.frames;
            Thread.sleep(50);
            assertThat(port.frames).isLessThan(stopped + 2_000);
            assertThat(player.playing()).isFalse();
            // Fades of 5 ms turn at most 0.5 by 1/240 a sample.
            assertThat(port.steepest(0, port.frames)).isLessThan(OWN_STEPS + 0.0025f);
        }
    }

    @Test
    void the_song_ends_by_itself_and_meters_show_what_was_played() throws Exception {
        Session session = new Sessions(folder)
                .track("short", "main", Signals.sine(100, -6, 48_000, 0.3))
                .build();
        try (Media media = Media.open(session, folder);
                Player player = new Player(session, media, port)) {
            player.start();
            until(() -> !player.playing());
            assertThat(player.position()).isEqualTo(14_400);
            float[] peaks = player.takePeaks().peaks().get(new SignalId(Sessions.id("short"), SignalId.Point.SOURCE));
            assertThat(peaks).isNotNull();
            assertThat(20 * Math.log10(peaks == null ? 0 : peaks[0])).isCloseTo(-6, within(0.01));
        }
    }

    @Test
    void a_silent_clock_keeps_time() {
        SilentPort clock = new SilentPort();
        clock.open(48_000, 480);
        float[][] block = new float[2][480];
        long began = System.nanoTime();
        for (int i = 0; i < 50; i++) {
            clock.write(block, 480);
        }
        // Half a second of audio, of which it lets 20 ms run ahead; later is the machine's doing, earlier its own.
        assertThat((System.nanoTime() - began) * 1e-9).isGreaterThan(0.45);
    }
}
