package waterwheel.core.songs;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.within;

import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.nio.file.attribute.FileTime;
import java.util.Comparator;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.OptionalDouble;
import java.util.stream.Stream;
import net.jqwik.api.Arbitraries;
import net.jqwik.api.Arbitrary;
import net.jqwik.api.Combinators;
import net.jqwik.api.ForAll;
import net.jqwik.api.Property;
import net.jqwik.api.Provide;
import waterwheel.core.audiofile.SampleEncoding;
import waterwheel.core.order.Correction;
import waterwheel.core.order.Part;
import waterwheel.core.order.RunningOrder;
import waterwheel.core.order.SongId;
import waterwheel.core.testing.Signals;
import waterwheel.core.testing.Songs;

/**
 * Whatever is done to files and settings, in any order: what is known without measuring is what a measurement would
 * find, by the arithmetic of sines in phase.
 */
class NeverStaleTest {
    private static final List<String> STEMS = List.of("Drums", "Bass", "Voices");

    /** What is done: a stem's file replaced by a tone, its part said, its part corrected, or made a cue. */
    record Deed(int what, int stem, int by) {}

    @Provide
    Arbitrary<List<Deed>> deeds() {
        return Combinators.combine(
                        Arbitraries.integers().between(0, 3),
                        Arbitraries.integers().between(0, 2),
                        Arbitraries.integers().between(0, 5))
                .as(Deed::new)
                .list()
                .ofMinSize(1)
                .ofMaxSize(6);
    }

    @Property(tries = 25)
    void what_is_known_is_true(@ForAll("deeds") List<Deed> deeds) throws Exception {
        Path folder = Files.createTempDirectory("waterwheel-stale");
        try {
            run(deeds, folder);
        } finally {
            try (Stream<Path> files = Files.walk(folder)) {
                for (Path file : files.sorted(Comparator.reverseOrder()).toList()) {
                    Files.delete(file);
                }
            }
        }
    }

    private long written = System.currentTimeMillis();

    private void write(Path file, double db) throws Exception {
        Signals.wav(file, Songs.RATE, SampleEncoding.FLOAT_32, Signals.sine(997, db, Songs.RATE, 1));
        // Two writes within one tick of the clock are what no look at a file can tell apart.
        written += 10;
        Files.setLastModifiedTime(file, FileTime.fromMillis(written));
    }

    private void run(List<Deed> deeds, Path folder) throws Exception {
        Map<String, Double> levels = new HashMap<>();
        Files.createDirectories(folder.resolve("Reel"));
        RunningOrder order = RunningOrder.empty("Evening").withSong("Reel", "Reel");
        for (String stem : STEMS) {
            write(folder.resolve("Reel/" + stem + ".wav"), -30);
            levels.put(stem, -30.0);
        }
        OrderMeasurement lasting = new OrderMeasurement(Songs.place(folder));
        check(order, levels, lasting, folder);
        for (Deed deed : deeds) {
            String stem = STEMS.get(deed.stem());
            switch (deed.what()) {
                case 0 -> {
                    double db = -20.0 - 3 * deed.by();
                    write(folder.resolve("Reel/" + stem + ".wav"), db);
                    levels.put(stem, db);
                }
                case 1 -> order = order.withName(stem, STEMS.get(deed.by() % STEMS.size()));
                case 2 -> {
                    String part = order.partOf(stem);
                    double gain = -2.0 * deed.by();
                    order = order.withSong(
                            new SongId("s1"), song -> song.with(part, new Correction(gain, Optional.empty())));
                }
                default -> order = order.with(new Part(order.partOf(stem), deed.by() % 2 == 0, OptionalDouble.empty()));
            }
            check(order, levels, lasting, folder);
        }
    }

    private void check(RunningOrder order, Map<String, Double> levels, OrderMeasurement lasting, Path folder)
            throws IOException {
        SongRow known = lasting.known(order.songs().getFirst(), order);
        if (!known.isPending()) {
            assertTrue(order, levels, new OrderLevels(order, List.of(known)));
        }
        OrderLevels measured = Songs.measured(order, Songs.place(folder));
        assertTrue(order, levels, measured);
    }

    /** Sines in phase add by amplitude; cues are in no sum. */
    private static void assertTrue(RunningOrder order, Map<String, Double> levels, OrderLevels found) {
        Map<String, Double> parts = new HashMap<>();
        double sum = 0;
        for (String stem : STEMS) {
            String part = order.partOf(stem);
            double gain = order.songs().getFirst().correction(part).gainDb();
            double amplitude = Math.pow(10, (levels.getOrDefault(stem, Double.NaN) + gain) / 20);
            parts.merge(part, amplitude, Double::sum);
            sum += order.part(part).cue() ? 0 : amplitude;
        }
        parts.forEach((part, amplitude) ->
                assertThat(Songs.lufs(found, "s1", part)).isCloseTo(20 * Math.log10(amplitude), within(0.05)));
        double whole = Songs.lufs(found, "s1", "");
        if (sum == 0) {
            assertThat(whole).isEqualTo(Double.NEGATIVE_INFINITY);
        } else {
            assertThat(whole).isCloseTo(20 * Math.log10(sum), within(0.05));
        }
        assertThat(found.rows().getFirst().known().orElseThrow().parts()).hasSize(parts.size());
    }
}
