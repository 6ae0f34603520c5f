package waterwheel.core.songs;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.within;
import static waterwheel.core.testing.Songs.lufs;
import static waterwheel.core.testing.Songs.measured;
import static waterwheel.core.testing.Songs.tone;

import java.nio.file.Files;
import java.nio.file.Path;
import java.util.List;
import java.util.Objects;
import java.util.Optional;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.DisplayNameGeneration;
import org.junit.jupiter.api.DisplayNameGenerator;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import waterwheel.core.audiofile.AudioFile;
import waterwheel.core.audiofile.AudioFileWriter;
import waterwheel.core.audiofile.AudioFiles;
import waterwheel.core.audiofile.FileTags;
import waterwheel.core.audiofile.RenderFormat;
import waterwheel.core.audiofile.SampleEncoding;
import waterwheel.core.edit.StemEdits;
import waterwheel.core.inserts.Insert;
import waterwheel.core.inserts.Processor;
import waterwheel.core.inserts.SlotId;
import waterwheel.core.order.Correction;
import waterwheel.core.order.RunningOrder;
import waterwheel.core.order.SongId;
import waterwheel.core.order.Stretch;
import waterwheel.core.order.Target;
import waterwheel.core.processing.Equaliser;
import waterwheel.core.processing.HardwareLoop;
import waterwheel.core.session.Section;
import waterwheel.core.session.Session;
import waterwheel.core.store.SessionFolder;
import waterwheel.core.testing.Sessions;
import waterwheel.core.testing.Signals;
import waterwheel.core.testing.Songs;
import waterwheel.core.work.Progress;

/** Golden figures: a 997 Hz sine of -20 dBFS on both sides measures -20.0 LUFS (BS.1770); sines in phase add. */
@DisplayNameGeneration(DisplayNameGenerator.ReplaceUnderscores.class)
class OrderMeasurementTest {
    private static final double TENTH = 0.05;

    @TempDir
    @SuppressWarnings("NullAway.Init")
    Path folder;

    private OrderPlace place;

    @BeforeEach
    void a_place() {
        place = Songs.place(folder);
    }

    private RunningOrder band() throws Exception {
        return new Songs(folder)
                .song("Reel")
                .stem("01 Drums", tone(-26))
                .stem("02 Bass", tone(-26), tone(-26))
                .stem("03 Click", tone(-10))
                .stem("Mix", tone(0))
                .song("Jig")
                .stem("Jig - Kick", tone(-20))
                .stem("Jig - Snare", tone(-20))
                .stem("Jig - Bass", tone(-30))
                .stem("Jig - Click", tone(-12))
                .order();
    }

    @Test
    void every_part_and_the_sum_are_measured_as_they_are_heard() throws Exception {
        OrderLevels levels = measured(band(), place);
        assertThat(lufs(levels, "s1", "Drums")).as("mono on both sides").isCloseTo(-26, within(TENTH));
        assertThat(lufs(levels, "s1", "Bass")).as("stereo").isCloseTo(-26, within(TENTH));
        assertThat(lufs(levels, "s1", "Click")).isCloseTo(-10, within(TENTH));
        assertThat(lufs(levels, "s1", "")).as("two in phase, no click, no mix").isCloseTo(-19.98, within(TENTH));
        assertThat(lufs(levels, "s2", "Drums")).as("two stems of one part").isCloseTo(-13.98, within(TENTH));
        assertThat(levels.parts().stream().map(part -> part.name()).toList()).containsExactly("Drums", "Bass", "Click");
    }

    @Test
    void a_correction_is_heard_in_its_part_and_in_the_sum_alone() throws Exception {
        RunningOrder order =
                band().withSong(new SongId("s1"), song -> song.with("Bass", new Correction(-6, Optional.empty())));
        OrderLevels levels = measured(order, place);
        assertThat(lufs(levels, "s1", "Bass")).isCloseTo(-32, within(TENTH));
        assertThat(lufs(levels, "s1", "Drums")).isCloseTo(-26, within(TENTH));
        // 20 log (10^(-26/20) + 10^(-32/20))
        assertThat(lufs(levels, "s1", "")).isCloseTo(-22.47, within(TENTH));
    }

    @Test
    void an_equaliser_corrects_as_its_curve_says() throws Exception {
        Processor bell = Processor.usual(Equaliser.KIND).with("bell1Hz", 997).with("bell1Db", -9);
        RunningOrder order =
                band().withSong(new SongId("s1"), song -> song.with("Drums", new Correction(0, Optional.of(bell))));
        assertThat(lufs(measured(order, place), "s1", "Drums")).isCloseTo(-35, within(TENTH));
    }

    @Test
    void sections_have_figures_of_their_own() throws Exception {
        RunningOrder order = new Songs(folder)
                .song("Reel")
                .stem(
                        "Bass",
                        Signals.joined(Signals.sine(997, -30, Songs.RATE, 5), Signals.sine(997, -18, Songs.RATE, 5)))
                .order()
                .withSong(
                        new SongId("s1"),
                        song -> song.withSections(List.of(
                                new Stretch("Verse", 0, 5),
                                new Stretch("Chorus", 5, 100),
                                new Stretch("Beyond", 50, 60))));
        OrderLevels levels = measured(order, place);
        SongRow row = levels.rows().getFirst();
        assertThat(levels.sections()).containsExactly("Verse", "Chorus");
        assertThat(levels.cell(row, "Bass", "Verse").orElseThrow().level().integratedLufs())
                .isCloseTo(-30, within(TENTH));
        assertThat(levels.cell(row, "Bass", "Chorus").orElseThrow().level().integratedLufs())
                .isCloseTo(-18, within(TENTH));
        assertThat(levels.cell(row, "Bass", "Beyond")).isEmpty();
    }

    @Test
    void a_song_may_be_one_file_of_any_format() throws Exception {
        Path flac = folder.resolve("Reel.flac");
        try (AudioFileWriter writer = AudioFileWriter.create(
                flac, 2, Songs.RATE, RenderFormat.FLAC_24, tone(-23).length, FileTags.of("", ""))) {
            writer.write(new float[][] {tone(-23), tone(-23)}, 0, tone(-23).length);
            writer.finish();
        }
        RunningOrder order = SongTitles.added(RunningOrder.empty("Evening"), place, List.of(flac));
        assertThat(order.songs().getFirst().title()).isEqualTo("Reel");
        assertThat(lufs(measured(order, place), "s1", "Mix")).isCloseTo(-23, within(TENTH));
        assertThat(folder.resolve("Reel.flac").toFile().getParentFile().list())
                .as("nothing is written beside the song but the working folder")
                .containsExactlyInAnyOrder("Reel.flac", "order-working");
    }

    @Test
    void faults_are_said_in_their_row_and_stop_nothing_else() throws Exception {
        Songs songs = new Songs(folder)
                .song("Whole")
                .stem("Drums", tone(-20))
                .stem("Bass", tone(-20))
                .song("Lacking")
                .stem("Drums", tone(-20))
                .song("Slow")
                .stem("Drums", 44_100, SampleEncoding.PCM_24, Signals.sine(997, -20, 44_100, 4))
                .stem("Bass", 44_100, SampleEncoding.PCM_24, Signals.sine(997, -20, 44_100, 4))
                .song("Mixed")
                .stem("Drums", tone(-20))
                .stem("Bass", 44_100, SampleEncoding.PCM_24, Signals.sine(997, -20, 44_100, 4))
                .song("Damaged")
                .stem("Drums", tone(-20))
                .song("Empty")
                .song("Gone");
        Files.writeString(folder.resolve("Damaged/Bass.wav"), "no sound at all");
        Files.delete(folder.resolve("Gone"));
        OrderLevels levels = measured(songs.order(), place);
        assertThat(sentences(levels, 0)).isEmpty();
        assertThat(sentences(levels, 1)).containsExactly("It has no Bass, as most songs have.");
        assertThat(sentences(levels, 2)).containsExactly("It runs at 44100 Hz, most songs at 48000 Hz.");
        assertThat(sentences(levels, 3)).anyMatch(one -> one.contains("unlike rates"));
        assertThat(lufs(levels, "s4", "Bass")).isCloseTo(-20, within(TENTH));
        assertThat(sentences(levels, 4)).anyMatch(one -> one.contains("Bass.wav"));
        assertThat(lufs(levels, "s5", "Drums")).isCloseTo(-20, within(TENTH));
        assertThat(levels.rows().get(5).problem()).contains("no WAV, AIFF or FLAC file");
        assertThat(levels.rows().get(6).problem()).contains("is not there");
    }

    private static List<String> sentences(OrderLevels levels, int row) {
        return levels.sentences(levels.rows().get(row));
    }

    @Test
    void a_session_is_heard_by_its_stems_and_its_sections_are_the_songs() throws Exception {
        Path song = folder.resolve("Reel");
        Session session = new Sessions(song)
                .bus("drums", "main")
                .track("kick", "drums", tone(-26), tone(-26))
                .track("snare", "drums", tone(-26), tone(-26))
                .track("bass", "main", tone(-20), tone(-20))
                .build()
                .withSections(List.of(new Section("Verse", 0, 96_000)));
        SessionFolder.save(session, song);
        RunningOrder order = SongTitles.added(RunningOrder.empty("Evening"), place, List.of(song));
        assertThat(order.parts().stream().map(part -> part.name()).toList()).containsExactly("Drums", "Bass");
        OrderLevels levels = measured(order, place);
        assertThat(lufs(levels, "s1", "Drums")).isCloseTo(-19.98, within(TENTH));
        assertThat(lufs(levels, "s1", "Bass")).isCloseTo(-20, within(TENTH));
        assertThat(levels.sections()).containsExactly("Verse");

        SessionFolder.save(session.withStrip(Sessions.id("drums"), strip -> strip.withFaderDb(-10)), song);
        assertThat(lufs(measured(order, place), "s1", "Drums"))
                .as("saved otherwise")
                .isCloseTo(-29.98, within(TENTH));
        assertThat(song.toFile().list()).doesNotContain("renders", "cache");
    }

    @Test
    void hardware_that_is_not_captured_is_said_in_the_songs_row() throws Exception {
        Path song = folder.resolve("Reel");
        Insert loop = Insert.of(new SlotId("hardware"), HardwareLoop.KIND);
        Session session = new Sessions(song)
                .bus("drums", "main")
                .track("kick", "drums", tone(-26), tone(-26))
                .track("bass", "main", tone(-20), tone(-20))
                .build()
                .withStrip(Sessions.id("drums"), strip -> strip.withInserts(List.of(loop)));
        SessionFolder.save(session, song);
        RunningOrder order = SongTitles.added(RunningOrder.empty("Evening"), place, List.of(song));
        assertThat(sentences(measured(order, place), 0))
                .anyMatch(sentence -> sentence.startsWith("Hardware is not captured as it is now: drums"));
    }

    @Test
    void a_session_that_was_put_together_by_hand_has_those_parts() throws Exception {
        Path song = folder.resolve("Reel");
        Session session = new Sessions(song)
                .track("kick", "main", tone(-26), tone(-26))
                .track("snare", "main", tone(-26), tone(-26))
                .track("bass", "main", tone(-20), tone(-20))
                .build();
        session = StemEdits.add("Drums", List.of(Sessions.id("kick"), Sessions.id("snare")))
                .apply(session);
        SessionFolder.save(session, song);
        RunningOrder order = SongTitles.added(RunningOrder.empty("Evening"), place, List.of(song));
        assertThat(order.parts().stream().map(part -> part.name()).toList()).containsExactly("Drums", "Bass");
        assertThat(lufs(measured(order, place), "s1", "Drums")).isCloseTo(-19.98, within(TENTH));
    }

    @Test
    void a_render_is_a_song_without_its_mix() throws Exception {
        RunningOrder order = band();
        DeliveryRequest request = new DeliveryRequest(
                folder.resolve("out"), RenderFormat.WAV_32F, Optional.empty(), Optional.empty(), false);
        new Delivery(order, place, request).deliver(Songs.ids(order), song -> {}, Progress.NONE);
        RunningOrder rendered = SongTitles.added(
                RunningOrder.empty("Again"),
                place,
                List.of(folder.resolve("out/01 Reel"), folder.resolve("out/02 Jig")));
        OrderLevels levels = measured(rendered, place);
        assertThat(lufs(levels, "s1", "")).isCloseTo(-19.98, within(TENTH));
        assertThat(lufs(levels, "s2", "Drums")).isCloseTo(-13.98, within(TENTH));
        assertThat(levels.cell(levels.rows().getFirst(), "Click", "")).isPresent();
    }

    @Test
    void what_is_known_is_read_and_not_measured_again() throws Exception {
        RunningOrder order = band();
        OrderMeasurement before = new OrderMeasurement(place);
        assertThat(before.known(order.songs().getFirst(), order).isPending()).isTrue();
        OrderLevels measured = measured(order, place);
        OrderMeasurement after = new OrderMeasurement(place);
        assertThat(after.known(order.songs().getFirst(), order))
                .isEqualTo(measured.rows().getFirst());
        for (String figures : Objects.requireNonNull(place.figures().toFile().list())) {
            Files.writeString(place.figures().resolve(figures), "{ damaged");
        }
        assertThat(new OrderMeasurement(place)
                        .known(order.songs().getFirst(), order)
                        .isPending())
                .isTrue();
        assertThat(measured(order, place)).isEqualTo(measured);
    }

    @Test
    void another_target_needs_no_measuring() throws Exception {
        OrderLevels levels = measured(band(), place);
        RunningOrder louder = levels.order().withTarget(Target.USUAL.withLufs(-15));
        OrderLevels kept = levels.of(louder);
        assertThat(kept.rows()).isEqualTo(levels.rows());
        assertThat(kept.cell(kept.rows().getFirst(), "Bass", "").orElseThrow().offLu())
                .isCloseTo(-11, within(TENTH));
        RunningOrder moved =
                louder.withSong(new SongId("s1"), song -> song.with("Bass", new Correction(1, Optional.empty())));
        assertThat(kept.of(moved).rows().get(0).isPending()).isTrue();
        assertThat(kept.of(moved).rows().get(1).isPending()).isFalse();
        assertThat(kept.of(louder.withName("Bass", "Drums")).rows()).allMatch(SongRow::isPending);
    }

    @Test
    void the_song_that_is_furthest_off_comes_first() throws Exception {
        RunningOrder order = band().withTarget(Target.USUAL.withLufs(-26));
        OrderLevels levels = measured(order, place);
        assertThat(levels.byDistance("").getFirst().song().title()).isEqualTo("Jig");
        assertThat(levels.worstLu(levels.rows().get(1), "")).isCloseTo(12.02, within(TENTH));
    }

    @Test
    void a_songs_files_stay_as_they_are() throws Exception {
        RunningOrder order = band();
        byte[] before = Files.readAllBytes(folder.resolve("Reel/02 Bass.wav"));
        measured(order, place);
        assertThat(Files.readAllBytes(folder.resolve("Reel/02 Bass.wav"))).isEqualTo(before);
        assertThat(folder.resolve("Reel").toFile().list()).hasSize(4);
        try (AudioFile file = AudioFiles.open(folder.resolve("Reel/02 Bass.wav"))) {
            assertThat(file.format().channels()).isEqualTo(2);
        }
    }
}
