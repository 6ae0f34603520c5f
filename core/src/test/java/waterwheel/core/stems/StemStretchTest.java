package waterwheel.core.stems;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatExceptionOfType;
import static org.assertj.core.api.Assertions.within;

import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.Arrays;
import java.util.List;
import java.util.Objects;
import java.util.Optional;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.DisplayNameGeneration;
import org.junit.jupiter.api.DisplayNameGenerator;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import waterwheel.core.audiofile.AudioFile;
import waterwheel.core.audiofile.AudioFiles;
import waterwheel.core.audiofile.RenderFormat;
import waterwheel.core.errors.RenderException;
import waterwheel.core.inserts.Insert;
import waterwheel.core.inserts.SlotId;
import waterwheel.core.metering.Figures;
import waterwheel.core.processing.Compressor;
import waterwheel.core.processing.Reverb;
import waterwheel.core.session.Placement;
import waterwheel.core.session.Section;
import waterwheel.core.session.Session;
import waterwheel.core.testing.Sessions;
import waterwheel.core.testing.Signals;
import waterwheel.core.work.Progress;

/** A stretch of the song by itself, and files of one side. */
@DisplayNameGeneration(DisplayNameGenerator.ReplaceUnderscores.class)
class StemStretchTest {
    private static final int FRAMES = 3 * Sessions.RATE;
    private static final Section MIDDLE = new Section("Middle", 40_001, 100_007);

    @TempDir
    Path folder;

    private Session session;

    @BeforeEach
    void two_tracks_through_what_remembers() throws Exception {
        session = new Sessions(folder)
                .track("centre", "main", Signals.noise(0.2, FRAMES, 1))
                .track("aside", "main", Signals.noise(0.2, FRAMES, 2))
                .build()
                .withStrip(Sessions.id("aside"), s -> s.withPlacement(Placement.CENTRE.withPosition(0.4))
                        .withInserts(List.of(Insert.of(new SlotId("1"), Reverb.KIND))))
                .withStrip(Sessions.MAIN, s -> s.withInserts(List.of(Insert.of(new SlotId("1"), Compressor.KIND))));
    }

    private StemResult render(String out, RenderFormat format, LevelPolicy policy, StemSettings settings)
            throws Exception {
        StemRequest request = new StemRequest(folder.resolve(out), format, policy, true).with(settings);
        return StemRender.render(session, folder, request, Progress.NONE);
    }

    private static StemSettings only(Section section) {
        return StemSettings.USUAL.withOnly(Optional.of(section));
    }

    private float[][] read(String file, long from, int frames) throws Exception {
        try (AudioFile audio = AudioFiles.open(folder.resolve(file))) {
            float[][] planes = new float[audio.format().channels()][frames];
            audio.reader(frames).read(from, planes, 0, frames);
            return planes;
        }
    }

    @Test
    void a_stretch_is_cut_from_the_whole_song_to_the_bit() throws Exception {
        render("whole", RenderFormat.WAV_32F, new LevelPolicy.AsMixed(), StemSettings.USUAL);
        StemResult part = render("part", RenderFormat.WAV_32F, new LevelPolicy.AsMixed(), only(MIDDLE));
        int frames = (int) (MIDDLE.endFrames() - MIDDLE.startFrames());
        assertThat(part.frames()).isEqualTo(frames);
        assertThat(part.proof().nulls()).as(part.proof().inWords()).isTrue();
        for (String name : List.of("Mix.wav", "01 centre.wav", "02 aside.wav")) {
            float[][] whole = read("whole/" + name, MIDDLE.startFrames(), frames);
            assertThat(Arrays.deepEquals(read("part/" + name, 0, frames), whole))
                    .as(name)
                    .isTrue();
        }
    }

    @Test
    void its_files_say_where_they_lie_and_its_levels_are_its_own() throws Exception {
        StemResult part = render("part", RenderFormat.WAV_24, new LevelPolicy.MixHeadroom(6), only(MIDDLE));
        assertThat(part.mix().orElseThrow().samplePeakDbfs()).isCloseTo(-6, within(0.001));
        byte[] bytes = Files.readAllBytes(folder.resolve("part/Mix.wav"));
        String text = new String(bytes, StandardCharsets.ISO_8859_1);
        int chunk = text.indexOf("bext");
        assertThat(text.substring(chunk + 8, chunk + 264)).contains("Mix, common gain, Middle");
        // EBU Tech 3285: the time reference lies 338 bytes into the chunk.
        int reference = chunk + 8 + 338;
        long first = 0;
        for (int i = 7; i >= 0; i--) {
            first = (first << 8) | (bytes[reference + i] & 0xFF);
        }
        assertThat(first).isEqualTo(MIDDLE.startFrames());
    }

    @Test
    void a_tail_after_it_is_what_the_song_plays_on() throws Exception {
        render("whole", RenderFormat.WAV_32F, new LevelPolicy.AsMixed(), StemSettings.USUAL);
        StemResult part = render(
                "part",
                RenderFormat.WAV_32F,
                new LevelPolicy.AsMixed(),
                only(MIDDLE).withTailSeconds(0.5));
        int tail = Sessions.RATE / 2;
        assertThat(part.frames()).isEqualTo(MIDDLE.endFrames() - MIDDLE.startFrames() + tail);
        assertThat(Arrays.deepEquals(
                        read("part/Mix.wav", part.frames() - tail, tail),
                        read("whole/Mix.wav", MIDDLE.endFrames(), tail)))
                .isTrue();
    }

    @Test
    void one_behind_the_songs_end_is_refused() {
        assertThatExceptionOfType(RenderException.class)
                .isThrownBy(() -> render(
                        "part",
                        RenderFormat.WAV_24,
                        new LevelPolicy.AsMixed(),
                        only(new Section("Encore", FRAMES + 1, FRAMES + 2))))
                .withMessageContaining("Encore begins behind the song's end");
    }

    @Test
    void another_stretch_is_not_taken_for_what_lies_there() throws Exception {
        render("part", RenderFormat.WAV_24, new LevelPolicy.AsMixed(), only(MIDDLE));
        Section later = new Section("Middle", MIDDLE.startFrames() + 1, MIDDLE.endFrames() + 1);
        assertThat(render("part", RenderFormat.WAV_24, new LevelPolicy.AsMixed(), only(later))
                        .upToDate())
                .isZero();
        assertThat(render("part", RenderFormat.WAV_24, new LevelPolicy.AsMixed(), only(later))
                        .upToDate())
                .isEqualTo(3);
    }

    @Test
    void a_stem_of_two_same_sides_is_written_as_one_where_that_is_asked_for() throws Exception {
        StemResult two = render("two", RenderFormat.WAV_32F, new LevelPolicy.AsMixed(), StemSettings.USUAL);
        StemResult one =
                render("one", RenderFormat.WAV_32F, new LevelPolicy.AsMixed(), StemSettings.USUAL.withMono(true));
        assertThat(one.files().stream().map(StemResult.Written::mono)).containsExactly(false, true, false);
        assertThat(one.proof().nulls()).as(one.proof().inWords()).isTrue();
        float[][] both = read("two/01 centre.wav", 0, FRAMES);
        float[][] single = read("one/01 centre.wav", 0, FRAMES);
        assertThat(single).hasDimensions(1, FRAMES);
        assertThat(Arrays.equals(single[0], both[0])).isTrue();
        // Two sides are 3 dB louder than one of them (ITU-R BS.1770 adds their energies).
        assertThat(loudness(two) - loudness(one)).isCloseTo(10 * Math.log10(2), within(0.001));
    }

    private static double loudness(StemResult result) {
        return Objects.requireNonNull(result.proof().files().get("01 centre.wav"))
                .integratedLufs();
    }

    @Test
    void a_target_holds_for_the_file_of_one_side() throws Exception {
        StemResult one = render(
                "one", RenderFormat.WAV_24, new LevelPolicy.EachLoudness(-30), StemSettings.USUAL.withMono(true));
        assertThat(loudness(one)).isCloseTo(-30, within(0.01));
        for (Figures each : one.proof().files().values()) {
            assertThat(each.silent()).isFalse();
        }
        assertThat(one.proof().nulls()).as(one.proof().inWords()).isTrue();
    }

    @Test
    void an_inverted_side_is_not_the_same_side() throws Exception {
        float[] noise = Signals.noise(0.2, FRAMES, 3);
        float[] inverted = noise.clone();
        for (int i = 0; i < inverted.length; i++) {
            inverted[i] = -inverted[i];
        }
        float[] other = noise.clone();
        other[FRAMES / 2] = Math.nextUp(other[FRAMES / 2]);
        session = new Sessions(folder)
                .track("inverted", "main", noise, inverted)
                .track("nearly", "main", noise, other)
                .track("same", "main", noise, noise)
                .build();
        StemResult one =
                render("one", RenderFormat.WAV_32F, new LevelPolicy.AsMixed(), StemSettings.USUAL.withMono(true));
        assertThat(one.files().stream().filter(StemResult.Written::mono).map(StemResult.Written::name))
                .containsExactly("same");
    }
}
