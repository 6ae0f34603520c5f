package waterwheel.core.playback;

import static org.assertj.core.api.Assertions.assertThat;

import java.nio.file.Path;
import java.util.List;
import java.util.SplittableRandom;
import java.util.concurrent.TimeUnit;
import java.util.concurrent.atomic.AtomicLong;
import org.junit.jupiter.api.DisplayNameGeneration;
import org.junit.jupiter.api.DisplayNameGenerator;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.Timeout;
import org.junit.jupiter.api.io.TempDir;
import org.junit.jupiter.api.parallel.Isolated;
import waterwheel.core.engine.Media;
import waterwheel.core.inserts.Insert;
import waterwheel.core.inserts.SlotId;
import waterwheel.core.ports.AudioPort;
import waterwheel.core.processing.Compressor;
import waterwheel.core.processing.Equaliser;
import waterwheel.core.processing.Limiter;
import waterwheel.core.processing.Reverb;
import waterwheel.core.session.Send;
import waterwheel.core.session.Session;
import waterwheel.core.testing.Sessions;
import waterwheel.core.testing.Signals;

/**
 * A session that is played, sought and changed all the time, as fast as it goes. How many seconds of song is the property
 * {@code waterwheel.play.seconds}.
 */
@Isolated("It asks how much memory is in use.")
@DisplayNameGeneration(DisplayNameGenerator.ReplaceUnderscores.class)
class LongPlaybackTest {
    private static final int RATE = 48_000;
    private static final long SECONDS = Long.getLong("waterwheel.play.seconds", 60);
    private static final int SONG_SECONDS = 12;
    private static final long MOST_GROWTH_BYTES = 64L << 20;

    @TempDir
    Path folder;

    /** Takes everything at once and remembers the worst of it. */
    private static final class EagerPort implements AudioPort {
        private final AtomicLong frames = new AtomicLong();
        private final AtomicLong wrong = new AtomicLong();

        @Override
        public String name() {
            return "eager";
        }

        @Override
        public boolean silent() {
            return false;
        }

        @Override
        public void open(int sampleRateHz, int maxFrames) {}

        @Override
        public void write(float[][] out, int count) {
            long found = 0;
            for (int i = 0; i < count; i++) {
                // Two tracks, a return and every fader at most at +6 dB cannot add up to more.
                found += Math.abs(out[0][i]) < 40 && Math.abs(out[1][i]) < 40 ? 0 : 1;
            }
            wrong.addAndGet(found);
            frames.addAndGet(count);
        }

        @Override
        public void close() {}
    }

    private Session session() throws Exception {
        List<Insert> chain = List.of(
                Insert.of(new SlotId("eq"), Equaliser.KIND),
                Insert.of(new SlotId("comp"), Compressor.KIND),
                Insert.of(new SlotId("limit"), Limiter.KIND));
        return new Sessions(folder)
                .track(
                        "one",
                        "main",
                        Signals.noise(0.3, RATE * SONG_SECONDS, 1),
                        Signals.noise(0.3, RATE * SONG_SECONDS, 2))
                .track("two", "main", Signals.noise(0.3, RATE * SONG_SECONDS, 3))
                .bus("return", "main")
                .build()
                .withStrip(Sessions.id("one"), s -> s.withInserts(chain)
                        .withSends(List.of(Send.toBus(Sessions.id("return"), -6))))
                .withStrip(
                        Sessions.id("two"),
                        s -> s.withSends(List.of(Send.toKey(Sessions.id("one"), new SlotId("comp")))))
                .withStrip(
                        Sessions.id("return"), s -> s.withInserts(List.of(Insert.of(new SlotId("room"), Reverb.KIND))));
    }

    private static Session changed(Session session, SplittableRandom random) {
        String[] ids = {"one", "two", "return", "main"};
        var id = Sessions.id(ids[random.nextInt(ids.length)]);
        return switch (random.nextInt(5)) {
            case 0 -> session.withStrip(id, s -> s.withFaderDb(random.nextInt(-40, 7)));
            case 1 -> session.withStrip(id, s -> s.withTrimDb(random.nextInt(-20, 7)));
            case 2 -> session.withStrip(id, s -> s.withMuted(!s.muted()));
            case 3 ->
                session.withStrip(
                        id,
                        s -> s.withInserts(s.inserts().stream()
                                .map(insert -> random.nextBoolean() ? insert.withBypassed(!insert.bypassed()) : insert)
                                .toList()));
            default ->
                session.withStrip(id, s -> s.withPlacement(s.placement().withPosition(random.nextDouble() * 2 - 1)));
        };
    }

    private static long usedBytes() {
        System.gc();
        return Runtime.getRuntime().totalMemory() - Runtime.getRuntime().freeMemory();
    }

    @Test
    @Timeout(value = 2, unit = TimeUnit.HOURS)
    void playback_goes_on_whatever_is_changed_and_sought_and_takes_no_more_memory() throws Exception {
        SplittableRandom random = new SplittableRandom(5);
        EagerPort port = new EagerPort();
        Session session = session();
        try (Media media = Media.open(session, folder);
                Player player = new Player(session, media, port)) {
            player.start();
            long before = 0;
            long wanted = SECONDS * RATE;
            while (port.frames.get() < wanted) {
                Thread.sleep(2 + random.nextInt(20));
                session = changed(session, random);
                player.use(session, media);
                if (random.nextInt(10) == 0) {
                    player.seek(random.nextLong((long) SONG_SECONDS * RATE));
                }
                player.takePeaks();
                player.takeReductions();
                player.start();
                assertThat(player.position()).isBetween(0L, (long) SONG_SECONDS * RATE);
                if (before == 0 && port.frames.get() > wanted / 4) {
                    before = usedBytes();
                }
            }
            assertThat(port.wrong.get()).as("samples that cannot be").isZero();
            assertThat(usedBytes() - before).isLessThan(MOST_GROWTH_BYTES);
        }
    }
}
