package waterwheel.core.songs;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatExceptionOfType;
import static org.assertj.core.api.Assertions.within;
import static waterwheel.core.testing.Songs.measured;
import static waterwheel.core.testing.Songs.tone;

import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.Arrays;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.TreeMap;
import java.util.stream.IntStream;
import java.util.stream.Stream;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.DisplayNameGeneration;
import org.junit.jupiter.api.DisplayNameGenerator;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import waterwheel.core.audiofile.AudioFile;
import waterwheel.core.audiofile.AudioFiles;
import waterwheel.core.audiofile.RenderFormat;
import waterwheel.core.audiofile.SampleEncoding;
import waterwheel.core.demo.DemoOrder;
import waterwheel.core.errors.RenderException;
import waterwheel.core.order.Correction;
import waterwheel.core.order.LineUp;
import waterwheel.core.order.RunningOrder;
import waterwheel.core.order.SongId;
import waterwheel.core.order.Target;
import waterwheel.core.store.OrderFile;
import waterwheel.core.testing.Signals;
import waterwheel.core.testing.Songs;
import waterwheel.core.work.Progress;

@DisplayNameGeneration(DisplayNameGenerator.ReplaceUnderscores.class)
class DeliveryTest {
    private static final int FRAMES = 48_000;

    @TempDir
    @SuppressWarnings("NullAway.Init")
    Path folder;

    private OrderPlace place;
    private Path out;

    @BeforeEach
    void places() {
        place = Songs.place(folder);
        out = folder.resolve("out");
    }

    private final float[] drums = Signals.noise(0.2, FRAMES, 1);
    private final float[][] bass = {Signals.noise(0.2, FRAMES, 2), Signals.noise(0.1, FRAMES, 3)};
    private final float[] click = Signals.noise(0.3, FRAMES, 4);

    private RunningOrder band() throws Exception {
        RunningOrder order = new Songs(folder)
                .song("Reel")
                .stem("Drums", drums)
                .stem("Bass", bass)
                .stem("Click", click)
                .song("Jig")
                .stem("Drums", drums)
                .stem("Bass", bass)
                .order();
        for (String part : List.of("Drums", "Bass", "Click")) {
            order = order.with(order.part(part));
        }
        return order.with(new LineUp("With drummer", List.of("Bass", "Click")))
                .withSong(new SongId("s1"), song -> song.with("Bass", new Correction(-6, Optional.empty())));
    }

    private DeliveryRequest request(RenderFormat format, Optional<ChannelPlan> channels) {
        return new DeliveryRequest(out, format, channels, Optional.empty(), false);
    }

    private List<DeliveredSong> deliver(RunningOrder order, DeliveryRequest request) throws Exception {
        return new Delivery(order, place, request).deliver(Songs.ids(order), song -> {}, Progress.NONE);
    }

    private static float[][] read(Path file) throws Exception {
        try (AudioFile audio = AudioFiles.open(file)) {
            int frames = (int) audio.format().frames();
            float[][] planes = new float[audio.format().channels()][frames];
            audio.reader(frames).read(0, planes, 0, frames);
            return planes;
        }
    }

    private static void assertNulls(float[] found, double[] wanted) {
        for (int i = 0; i < wanted.length; i++) {
            // -120 dBFS
            assertThat((double) found[i]).isCloseTo(wanted[i], within(1e-6));
        }
    }

    private static double[] doubles(float[] signal) {
        return IntStream.range(0, signal.length).mapToDouble(i -> signal[i]).toArray();
    }

    private double[] sum(double drumsBy, double leftBy, double rightBy) {
        double[] sum = new double[FRAMES];
        for (int i = 0; i < FRAMES; i++) {
            sum[i] = drumsBy * drums[i] + leftBy * bass[0][i] + rightBy * bass[1][i];
        }
        return sum;
    }

    @Test
    void each_part_is_a_file_of_its_name_as_corrected_and_they_add_up() throws Exception {
        List<DeliveredSong> songs = deliver(band(), request(RenderFormat.WAV_32F, Optional.empty()));
        assertThat(songs).allMatch(DeliveredSong::holds);
        double six = Math.pow(10, -6.0 / 20);
        assertNulls(read(out.resolve("01 Reel/Bass.wav"))[0], sum(0, six, 0));
        assertNulls(read(out.resolve("01 Reel/Drums.wav"))[1], sum(1, 0, 0));
        assertNulls(read(out.resolve("01 Reel/Mix.wav"))[0], sum(1, six, 0));
        assertThat(out.resolve("01 Reel/cues/Click.wav")).exists();
        assertThat(out.resolve("02 Jig/Drums.wav")).exists();
        assertThat(out.resolve("02 Jig/cues")).doesNotExist();
    }

    @Test
    void sides_are_half_the_sum_of_music_and_the_cues() throws Exception {
        RunningOrder order = band();
        deliver(order, request(RenderFormat.WAV_32F, Optional.of(ChannelPlan.sides(order.parts()))));
        double half = 0.5 * Math.pow(10, -6.0 / 20);
        float[][] reel = read(out.resolve("01 Reel/01 Reel.wav"));
        assertThat(reel).hasDimensions(2, FRAMES);
        assertNulls(reel[0], sum(1, half, half));
        for (int i = 0; i < FRAMES; i++) {
            assertThat((double) reel[1][i]).isCloseTo(click[i], within(1e-6));
        }
        float[][] jig = read(out.resolve("02 Jig/02 Jig.wav"));
        assertNulls(jig[0], sum(1, 0.5, 0.5));
        assertThat(jig[1]).as("no click in that song").containsOnly(0);
    }

    @Test
    void channels_are_the_same_for_all_songs() throws Exception {
        RunningOrder order = band();
        List<DeliveredSong> songs =
                deliver(order, request(RenderFormat.WAV_24, Optional.of(ChannelPlan.of(6, order.parts()))));
        assertThat(songs).allMatch(DeliveredSong::holds);
        assertThat(songs.get(0).parts().stream().map(DeliveredPart::name).toList())
                .isEqualTo(
                        songs.get(1).parts().stream().map(DeliveredPart::name).toList());
        float[][] jig = read(out.resolve("02 Jig/02 Jig.wav"));
        assertThat(jig.length).isEqualTo(6);
        for (int i = 0; i < FRAMES; i++) {
            // 24 bits: half a step and one of dither.
            assertThat((double) jig[1][i]).isCloseTo(drums[i], within(2e-7));
            assertThat((double) jig[3][i]).isCloseTo(bass[1][i], within(2e-7));
        }
    }

    @Test
    void channels_that_nothing_goes_to_shift_no_others() throws Exception {
        RunningOrder order = new Songs(folder)
                .song("Reel")
                .stem("Bass", bass)
                .stem("Click", click)
                .order();
        for (String part : List.of("Bass", "Click")) {
            order = order.with(order.part(part));
        }
        // Bass, two empty pairs, the click, an empty channel.
        deliver(order, request(RenderFormat.WAV_32F, Optional.of(ChannelPlan.of(8, order.parts()))));
        float[][] reel = read(out.resolve("01 Reel/01 Reel.wav"));
        assertThat(reel).hasDimensions(8, FRAMES);
        assertNulls(reel[0], sum(0, 1, 0));
        assertNulls(reel[1], sum(0, 0, 1));
        assertNulls(reel[6], doubles(click));
        for (int silent : new int[] {2, 3, 4, 5, 7}) {
            assertNulls(reel[silent], new double[FRAMES]);
        }
    }

    @Test
    void a_line_up_leaves_out_what_is_not_in_it() throws Exception {
        RunningOrder order = band();
        DeliveryRequest request =
                new DeliveryRequest(out, RenderFormat.WAV_32F, Optional.empty(), order.lineUp("With drummer"), false);
        assertThat(deliver(order, request)).allMatch(DeliveredSong::holds);
        assertThat(out.resolve("01 Reel/Drums.wav")).doesNotExist();
        assertNulls(read(out.resolve("01 Reel/Mix.wav"))[1], sum(0, 0, Math.pow(10, -6.0 / 20)));
    }

    @Test
    void only_what_changed_is_written_again() throws Exception {
        RunningOrder order = band();
        for (Optional<ChannelPlan> layout :
                List.of(Optional.<ChannelPlan>empty(), Optional.of(ChannelPlan.of(4, order.parts())))) {
            DeliveryRequest request = request(RenderFormat.WAV_24, layout);
            deliver(order, request);
            Map<String, byte[]> before = contents();
            assertThat(deliver(order, request))
                    .allMatch(DeliveredSong::upToDate)
                    .allMatch(DeliveredSong::holds);
            assertThat(contents()).containsExactlyEntriesOf(before);

            RunningOrder moved =
                    order.withSong(new SongId("s2"), song -> song.with("Drums", new Correction(1, Optional.empty())));
            assertThat(deliver(moved, request))
                    .extracting(DeliveredSong::upToDate)
                    .containsExactly(true, false);

            Path file = out.resolve(layout.isEmpty() ? "01 Reel/Mix.wav" : "01 Reel/01 Reel.wav");
            byte[] damaged = Files.readAllBytes(file);
            damaged[damaged.length / 2] ^= 1;
            Files.write(file, damaged);
            assertThat(deliver(moved, request))
                    .extracting(DeliveredSong::upToDate)
                    .containsExactly(false, true);
            assertThat(deliver(order, request)).allMatch(DeliveredSong::holds);
            assertThat(audio(contents())).isEqualTo(audio(before));
        }
    }

    @Test
    void two_workers_make_the_files_that_one_makes() throws Exception {
        RunningOrder order = band();
        DeliveryRequest request = request(RenderFormat.WAV_24, Optional.empty());
        deliver(order, request);
        Map<String, Integer> one = audio(contents());
        Path both = folder.resolve("both");
        DeliveryRequest shared =
                new DeliveryRequest(both, RenderFormat.WAV_24, Optional.empty(), Optional.empty(), false);
        Thread[] workers = Songs.ids(order).stream()
                .map(id -> Thread.ofPlatform().start(() -> {
                    try {
                        new Delivery(order, place, shared).deliver(List.of(id), song -> {}, Progress.NONE);
                    } catch (RenderException e) {
                        throw new IllegalStateException(e);
                    }
                }))
                .toArray(Thread[]::new);
        for (Thread worker : workers) {
            worker.join();
        }
        out = both;
        assertThat(audio(contents())).isEqualTo(one);
    }

    private Map<String, byte[]> contents() throws IOException {
        Map<String, byte[]> contents = new TreeMap<>();
        try (Stream<Path> files = Files.walk(out)) {
            for (Path file : files.filter(Files::isRegularFile).toList()) {
                contents.put(out.relativize(file).toString(), Files.readAllBytes(file));
            }
        }
        return contents;
    }

    private static Map<String, Integer> audio(Map<String, byte[]> contents) {
        Map<String, Integer> audio = new TreeMap<>();
        contents.forEach((name, bytes) -> {
            if (name.endsWith(".wav")) {
                audio.put(name, Arrays.hashCode(bytes));
            }
        });
        return audio;
    }

    @Test
    void a_song_that_is_not_whole_is_told_of_and_keeps_none_of_the_others() throws Exception {
        RunningOrder order = band().withSong("Gone", "Gone");
        Files.writeString(folder.resolve("Reel/Voice.wav"), "no sound");
        List<DeliveredSong> songs = deliver(order, request(RenderFormat.WAV_24, Optional.empty()));
        assertThat(songs).extracting(DeliveredSong::delivered).containsExactly(false, true, false);
        assertThat(songs.get(0).proof()).contains("Reel is not whole").contains("Voice.wav");
        assertThat(songs.get(2).proof()).contains("is not there");
        assertThat(DeliveryReport.html(order, request(RenderFormat.WAV_24, Optional.empty()), songs))
                .contains("1 of 3 songs")
                .contains("Not every proof holds");
    }

    @Test
    void nothing_is_delivered_into_what_the_running_order_reads() throws Exception {
        RunningOrder order = band();
        for (Path forbidden :
                List.of(folder.resolve("Reel"), folder.resolve("Reel/deeper"), OrderFile.working(place.file()))) {
            out = forbidden;
            assertThatExceptionOfType(RenderException.class)
                    .isThrownBy(() -> deliver(order, request(RenderFormat.WAV_24, Optional.empty())));
        }
        assertThat(folder.resolve("Reel").toFile().list()).hasSize(3);
    }

    @Test
    void a_file_that_is_not_ours_is_not_replaced_unless_that_was_said() throws Exception {
        RunningOrder order = band();
        DeliveryRequest request = request(RenderFormat.WAV_24, Optional.of(ChannelPlan.sides(order.parts())));
        Path own = out.resolve("01 Reel/01 Reel.wav");
        Files.createDirectories(own.getParent());
        Signals.wav(own, 48_000, SampleEncoding.PCM_16, drums);
        byte[] before = Files.readAllBytes(own);
        assertThat(deliver(order, request)).extracting(DeliveredSong::delivered).containsExactly(false, true);
        assertThat(Files.readAllBytes(own)).isEqualTo(before);
        DeliveryRequest over = new DeliveryRequest(out, request.format(), request.channels(), request.lineUp(), true);
        assertThat(deliver(order, over)).allMatch(DeliveredSong::holds);
    }

    @Test
    void the_demos_six_songs_come_within_a_tenth_of_their_target() throws Exception {
        Path demo = folder.resolve("demo");
        place = new OrderPlace(DemoOrder.writeIfMissing(demo, Progress.NONE));
        RunningOrder order = OrderFile.load(place.file()).order();
        OrderLevels before = measured(order, place);
        assertThat(before.rows()).hasSize(6);
        assertThat(before.rows()).anyMatch(row -> before.lacking(row).contains("Click"));
        RunningOrder equal = Equal.applied(order, Equal.of(before, List.of()));
        Target target = equal.target();
        for (DeliveredSong song : deliver(equal, request(RenderFormat.WAV_24, Optional.empty()))) {
            assertThat(song.holds()).isTrue();
            for (DeliveredPart part : song.parts()) {
                if (!part.sum() && !part.where().startsWith("cues/")) {
                    assertThat(part.level().integratedLufs())
                            .as(song.title() + ", " + part.name())
                            .isCloseTo(target.lufs(), within(0.1));
                    assertThat(part.level().truePeakDbtp()).isLessThanOrEqualTo(target.guardDbtp());
                }
            }
        }
    }

    @Test
    void a_tone_is_delivered_at_the_loudness_that_was_asked_for() throws Exception {
        RunningOrder order =
                new Songs(folder).song("Reel").stem("Bass", tone(-31.7)).order().withTarget(Target.USUAL.withLufs(-18));
        RunningOrder equal = Equal.applied(order, Equal.of(measured(order, place), List.of()));
        float[][] file = read(out(equal));
        double peak = 0;
        for (float sample : file[0]) {
            peak = Math.max(peak, Math.abs(sample));
        }
        assertThat(20 * Math.log10(peak)).isCloseTo(-18, within(0.05));
    }

    private Path out(RunningOrder order) throws Exception {
        deliver(order, request(RenderFormat.WAV_32F, Optional.empty()));
        return out.resolve("01 Reel/Bass.wav");
    }
}
