package waterwheel.core.songs;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.within;
import static waterwheel.core.testing.Songs.lufs;
import static waterwheel.core.testing.Songs.tone;

import java.nio.file.Files;
import java.nio.file.Path;
import java.nio.file.attribute.FileTime;
import java.time.Duration;
import java.util.Optional;
import java.util.concurrent.BlockingQueue;
import java.util.concurrent.LinkedBlockingQueue;
import java.util.concurrent.TimeUnit;
import java.util.function.Predicate;
import org.junit.jupiter.api.DisplayNameGeneration;
import org.junit.jupiter.api.DisplayNameGenerator;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import waterwheel.core.audiofile.SampleEncoding;
import waterwheel.core.order.Correction;
import waterwheel.core.order.RunningOrder;
import waterwheel.core.order.SongId;
import waterwheel.core.session.Session;
import waterwheel.core.store.SessionFolder;
import waterwheel.core.testing.Sessions;
import waterwheel.core.testing.Signals;
import waterwheel.core.testing.Songs;

@DisplayNameGeneration(DisplayNameGenerator.ReplaceUnderscores.class)
class OrderWatchTest {
    @TempDir
    @SuppressWarnings("NullAway.Init")
    Path folder;

    private final BlockingQueue<OrderLevels> arrived = new LinkedBlockingQueue<>();

    private OrderWatch watch() {
        return new OrderWatch(
                Songs.place(folder),
                arrived::add,
                e -> {
                    throw e;
                },
                Duration.ofMillis(20));
    }

    private OrderLevels await(Predicate<OrderLevels> wanted) throws Exception {
        long end = System.nanoTime() + TimeUnit.SECONDS.toNanos(60);
        while (System.nanoTime() < end) {
            OrderLevels levels = arrived.poll(1, TimeUnit.SECONDS);
            if (levels != null && wanted.test(levels)) {
                return levels;
            }
        }
        throw new AssertionError("Nothing of that kind came within a minute.");
    }

    private static boolean complete(OrderLevels levels) {
        return levels.rows().stream().noneMatch(SongRow::isPending);
    }

    private RunningOrder band() throws Exception {
        return new Songs(folder)
                .song("Reel")
                .stem("Bass", tone(-20))
                .song("Jig")
                .stem("Bass", tone(-30))
                .order();
    }

    @Test
    void a_song_that_changed_on_the_disk_is_measured_again_by_itself() throws Exception {
        RunningOrder order = band();
        try (OrderWatch watch = watch()) {
            watch.submit(order);
            assertThat(lufs(await(OrderWatchTest::complete), "s2", "Bass")).isCloseTo(-30, within(0.05));
            Path file = folder.resolve("Jig/Bass.wav");
            Signals.wav(file, Songs.RATE, SampleEncoding.FLOAT_32, tone(-12));
            Files.setLastModifiedTime(file, FileTime.fromMillis(System.currentTimeMillis() + 5_000));
            OrderLevels pending = await(levels -> levels.rows().get(1).isPending());
            assertThat(pending.rows().getFirst().isPending())
                    .as("the other song is untouched")
                    .isFalse();
            assertThat(lufs(await(OrderWatchTest::complete), "s2", "Bass")).isCloseTo(-12, within(0.05));
        }
    }

    @Test
    void a_file_that_is_gone_is_told_of_and_one_that_is_back_is_measured() throws Exception {
        RunningOrder order = band();
        try (OrderWatch watch = watch()) {
            watch.submit(order);
            await(OrderWatchTest::complete);
            Path away = folder.resolve("away.wav");
            Files.move(folder.resolve("Jig/Bass.wav"), away);
            OrderLevels gone = await(levels -> !levels.rows().get(1).problem().isEmpty());
            assertThat(gone.rows().get(1).problem()).contains("Jig");
            Files.move(away, folder.resolve("Jig/Bass.wav"));
            assertThat(lufs(
                            await(levels -> complete(levels)
                                    && levels.rows().get(1).problem().isEmpty()),
                            "s2",
                            "Bass"))
                    .isCloseTo(-30, within(0.05));
        }
    }

    @Test
    void a_song_that_cannot_be_measured_is_tried_again_only_when_it_changed() throws Exception {
        Path song = folder.resolve("Waltz");
        Session session = new Sessions(song).track("bass", "main", tone(-20)).build();
        SessionFolder.save(session, song);
        Path file = song.resolve("bass.wav");
        Path away = folder.resolve("away.wav");
        Files.move(file, away);
        RunningOrder order = RunningOrder.empty("Evening").withSong("Waltz", "Waltz");
        try (OrderWatch watch = watch()) {
            watch.submit(order);
            await(levels -> !levels.rows().getFirst().problem().isEmpty());
            arrived.clear();
            // Some twenty looks later.
            assertThat(arrived.poll(500, TimeUnit.MILLISECONDS))
                    .as("nothing new is published")
                    .isNull();
            Files.move(away, file);
            // A mono track in the centre, under the session's pan law of -3 dB.
            assertThat(lufs(await(OrderWatchTest::measured), "s1", "Bass")).isCloseTo(-23.01, within(0.05));
        }
    }

    private static boolean measured(OrderLevels levels) {
        return levels.rows().stream().allMatch(row -> row.levels() != null);
    }

    @Test
    void levels_follow_every_change_and_are_never_those_of_another_state() throws Exception {
        RunningOrder order = band();
        try (OrderWatch watch = watch()) {
            for (int db = 0; db > -12; db -= 3) {
                double gain = db;
                RunningOrder moved = order.withSong(
                        new SongId("s1"), song -> song.with("Bass", new Correction(gain, Optional.empty())));
                watch.submit(moved);
                OrderLevels levels = await(one -> one.order().equals(moved) && complete(one));
                assertThat(lufs(levels, "s1", "Bass")).isCloseTo(-20 + gain, within(0.05));
            }
            // Undo: known from before.
            watch.submit(order);
            OrderLevels back = await(one -> one.order().equals(order) && complete(one));
            assertThat(lufs(back, "s1", "Bass")).isCloseTo(-20, within(0.05));
        }
    }
}
