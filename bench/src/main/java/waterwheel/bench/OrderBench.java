package waterwheel.bench;

import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.time.Duration;
import java.util.ArrayList;
import java.util.Comparator;
import java.util.List;
import java.util.Locale;
import java.util.Optional;
import java.util.concurrent.BlockingQueue;
import java.util.concurrent.LinkedBlockingQueue;
import java.util.function.Predicate;
import java.util.stream.Stream;
import waterwheel.core.order.Correction;
import waterwheel.core.order.RunningOrder;
import waterwheel.core.order.SongId;
import waterwheel.core.order.Stretch;
import waterwheel.core.songs.OrderLevels;
import waterwheel.core.songs.OrderMeasurement;
import waterwheel.core.songs.OrderPlace;
import waterwheel.core.songs.OrderWatch;
import waterwheel.core.songs.SongRow;
import waterwheel.core.store.OrderFile;
import waterwheel.core.work.Progress;

/**
 * Running orders of stereo stems of noise (32-bit float, 48 kHz), four parts a song: measured for the first time; a gain
 * moved until its row is true; many short songs opened whose figures are known. Songs share the files of a few, by links.
 */
final class OrderBench {
    private static final List<String> PARTS = List.of("Drums", "Bass", "Tracks", "Voices");
    private static final int DISTINCT = 3;
    private static final int MOVES = 21;
    private static final int SHORT_SECONDS = 5;

    private OrderBench() {}

    static String run(int songs, int seconds, int many, Path folder) throws Exception {
        try {
            return measured(songs, seconds, folder.resolve("long")) + "\n" + opened(many, folder.resolve("many"));
        } finally {
            try (Stream<Path> files = Files.walk(folder)) {
                for (Path file : files.sorted(Comparator.reverseOrder()).toList()) {
                    Files.delete(file);
                }
            }
        }
    }

    private static RunningOrder written(int songs, int seconds, Path folder) throws Exception {
        for (int song = 0; song < Math.min(songs, DISTINCT); song++) {
            for (int part = 0; part < PARTS.size(); part++) {
                Path file = folder.resolve("song " + song).resolve(PARTS.get(part) + ".wav");
                Files.createDirectories(file.getParent());
                Noise.write(file, seconds, 48_000, 10 * song + part);
            }
        }
        RunningOrder order = RunningOrder.empty("Bench");
        for (int song = 0; song < songs; song++) {
            Path into = folder.resolve("song " + song);
            if (song >= DISTINCT) {
                link(folder.resolve("song " + song % DISTINCT), into);
            }
            order = order.withSong("song " + song, "Song " + song);
            SongId id = order.songs().getLast().id();
            order = order.withSong(
                    id,
                    one -> one.withSections(List.of(
                            new Stretch("Verse", 0, seconds * 0.4),
                            new Stretch("Chorus", seconds * 0.4, seconds * 0.7),
                            new Stretch("Ending", seconds * 0.7, seconds))));
        }
        return order;
    }

    private static void link(Path from, Path to) throws IOException {
        Files.createDirectories(to);
        for (String part : PARTS) {
            Files.createLink(to.resolve(part + ".wav"), from.resolve(part + ".wav"));
        }
    }

    private static String measured(int songs, int seconds, Path folder) throws Exception {
        RunningOrder order = written(songs, seconds, folder);
        OrderPlace place = new OrderPlace(folder.resolve("order.json"));
        long begun = System.nanoTime();
        OrderMeasurement.of(order, place, true, row -> {}, Progress.NONE);
        double took = (System.nanoTime() - begun) * 1e-9;
        double times = (double) songs * PARTS.size() * seconds / took;
        List<Double> moved = moves(order, place);
        return String.format(
                Locale.ROOT,
                "{\"bench\":\"running order, %d songs of %d parts and %d s, first time\",\"seconds\":%.2f,"
                        + "\"timesRealTimeOfAllParts\":%.0f}%n{\"bench\":\"a gain moved until its row is true\","
                        + "\"medianSeconds\":%.3f,\"slowestSeconds\":%.3f,\"moves\":%d}",
                songs,
                PARTS.size(),
                seconds,
                took,
                times,
                moved.get(moved.size() / 2),
                moved.getLast(),
                moved.size());
    }

    private static List<Double> moves(RunningOrder order, OrderPlace place) throws Exception {
        BlockingQueue<OrderLevels> arrived = new LinkedBlockingQueue<>();
        List<Double> took = new ArrayList<>();
        try (OrderWatch watch = new OrderWatch(place, arrived::add, e -> {
            throw e;
        })) {
            watch.submit(order);
            await(arrived, levels -> complete(levels));
            for (int i = 1; i <= MOVES; i++) {
                double gain = -0.25 * i;
                SongId song = order.songs().get(i % order.songs().size()).id();
                RunningOrder moved =
                        order.withSong(song, one -> one.with("Bass", new Correction(gain, Optional.empty())));
                long begun = System.nanoTime();
                watch.submit(moved);
                await(arrived, levels -> levels.order().equals(moved) && complete(levels));
                took.add((System.nanoTime() - begun) * 1e-9);
            }
        }
        took.sort(Comparator.naturalOrder());
        return took;
    }

    private static boolean complete(OrderLevels levels) {
        return levels.rows().stream().noneMatch(SongRow::isPending);
    }

    private static void await(BlockingQueue<OrderLevels> arrived, Predicate<OrderLevels> wanted) throws Exception {
        long end = System.nanoTime() + Duration.ofMinutes(5).toNanos();
        while (!wanted.test(arrived.take())) {
            if (System.nanoTime() > end) {
                throw new IllegalStateException("The levels did not come within five minutes.");
            }
        }
    }

    /** From the file to every row's figures, by a measurement that knows nothing yet. */
    private static String opened(int songs, Path folder) throws Exception {
        RunningOrder order = written(songs, SHORT_SECONDS, folder);
        OrderPlace place = new OrderPlace(folder.resolve("order.json"));
        OrderFile.save(order, place.file());
        OrderMeasurement.of(order, place, true, row -> {}, Progress.NONE);
        List<Double> took = new ArrayList<>();
        for (int i = 0; i < 5; i++) {
            long begun = System.nanoTime();
            RunningOrder read = OrderFile.load(place.file()).order();
            OrderMeasurement measurement = new OrderMeasurement(place);
            if (read.songs().stream()
                    .anyMatch(song -> measurement.known(song, read).isPending())) {
                throw new IllegalStateException("A song is not known.");
            }
            took.add((System.nanoTime() - begun) * 1e-9);
        }
        System.gc();
        double heap = (Runtime.getRuntime().totalMemory() - Runtime.getRuntime().freeMemory()) * 1e-6;
        return String.format(
                Locale.ROOT,
                "{\"bench\":\"%d songs whose figures are known, from their file to every row\",\"firstSeconds\":%.3f,"
                        + "\"lastSeconds\":%.3f,\"heapMegabytesAfter\":%.0f}",
                songs,
                took.getFirst(),
                took.getLast(),
                heap);
    }
}
