package waterwheel.core.instruments;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatExceptionOfType;
import static org.assertj.core.api.Assertions.tuple;

import java.nio.file.Files;
import java.nio.file.Path;
import java.util.List;
import org.junit.jupiter.api.DisplayNameGeneration;
import org.junit.jupiter.api.DisplayNameGenerator;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import waterwheel.core.errors.NotesFileException;
import waterwheel.core.testing.NotedLoops;

/** A map of samples says which file is played by which notes. */
@DisplayNameGeneration(DisplayNameGenerator.ReplaceUnderscores.class)
class SampleMapFileTest {
    @TempDir
    Path folder;

    private SampleMap read(String... lines) throws Exception {
        Path file = folder.resolve("kit.sfz");
        Files.write(file, List.of(lines));
        return SampleMapFile.read(file);
    }

    @Test
    void headers_hold_for_what_is_within_them_and_values_may_have_blanks() throws Exception {
        SampleMap map = read(
                "// a kit",
                "<control> default_path=Kit sounds/",
                "<global> ampeg_release=0.4 volume=-3",
                "<group> key=c2 loop_mode=one_shot output=0",
                "<region> sample=heel soft.wav lovel=1 hivel=63 seq_length=2 seq_position=1",
                "<region> sample=heel hard.wav lovel=64 volume=2 // louder",
                "<group> lokey=60 hikey=71 pitch_keycenter=65 tune=-20 transpose=12 output=3 pan=-50",
                "<region> sample=..\\deep\\toe.wav loop_mode=loop_sustain loop_start=10 loop_end=99");
        assertThat(map.name()).isEqualTo("kit");
        assertThat(map.told()).isEmpty();
        assertThat(map.entries()).hasSize(3);
        SampleMap.Entry soft = map.entries().get(0);
        assertThat(soft.file()).isEqualTo(folder.resolve("Kit sounds/heel soft.wav"));
        Region region = soft.region();
        assertThat(List.of(region.lowKey(), region.highKey(), region.centreKey()))
                .containsExactly(36, 36, 36);
        assertThat(List.of(region.lowVelocity(), region.highVelocity())).containsExactly(1, 63);
        assertThat(region.loop()).isEqualTo(Region.Loop.ONE_SHOT);
        assertThat(region.releaseSeconds()).isEqualTo(0.4);
        assertThat(region.volumeDb()).isEqualTo(-3);
        assertThat(List.of(region.turn(), region.turns(), region.output())).containsExactly(1, 2, 1);
        assertThat(map.entries().get(1).region().volumeDb()).isEqualTo(2);
        SampleMap.Entry toe = map.entries().get(2);
        assertThat(toe.file()).isEqualTo(folder.resolve("Kit sounds/../deep/toe.wav"));
        assertThat(toe.region().tuneCents()).isEqualTo(1_180);
        assertThat(toe.region().output()).isEqualTo(4);
        assertThat(toe.region().pan()).isEqualTo(-0.5);
        assertThat(List.of(toe.region().loopStart(), toe.region().loopEnd())).containsExactly(10L, 100L);
        assertThat(toe.region().loop()).isEqualTo(Region.Loop.SUSTAIN);
    }

    @Test
    void what_it_does_not_know_is_told_once_each() throws Exception {
        SampleMap map = read(
                "#include \"more.txt\"",
                "<region> sample=a.wav cutoff=800 key=nonsense",
                "<region> sample=b.wav cutoff=900 volume=loud",
                "<region> sample=*sine",
                "<curve> v000=0",
                "<region> sample=c.wav lokey=60 output=40");
        assertThat(map.entries()).hasSize(2);
        assertThat(map.told())
                .containsExactlyInAnyOrder(
                        "'#include' is not known here.",
                        "'cutoff' is not known here.",
                        "'nonsense' is no key.",
                        "'loud' is no number.",
                        "The built-in sound '*sine' is not known here.",
                        "<curve> is not known here.",
                        "'v000' is not known here.",
                        "A region of 'c.wav' was left out: output: 41.0 (expected: 1.0 to 16.0).");
    }

    @Test
    void what_is_no_map_is_refused() {
        assertThatExceptionOfType(NotesFileException.class)
                .isThrownBy(() -> read("nothing here"))
                .withMessageContaining("kit.sfz names no sample.");
        assertThatExceptionOfType(NotesFileException.class)
                .isThrownBy(() -> SampleMapFile.read(folder.resolve("none.sfz")))
                .withMessageContaining("cannot be read");
    }

    @Test
    void a_folder_of_files_named_by_notes_has_each_key_play_the_nearest() throws Exception {
        for (String name :
                List.of("Harp C4.wav", "Harp G4 soft.wav", "harp_c#5.wav", "Harp other C4.wav", "noise.wav")) {
            Files.write(folder.resolve(name), new byte[] {1});
        }
        SampleMap map = NamedSamples.read(folder);
        assertThat(map.entries())
                .extracting(
                        one -> String.valueOf(one.file().getFileName()),
                        one -> one.region().lowKey(),
                        one -> one.region().highKey(),
                        one -> one.region().centreKey())
                .containsExactly(
                        tuple("Harp C4.wav", 0, 63, 60),
                        tuple("Harp G4 soft.wav", 64, 70, 67),
                        tuple("harp_c#5.wav", 71, 127, 73));
        assertThat(map.told()).hasSize(2);
    }

    @Test
    void a_sample_goes_round_where_it_notes_that_itself_unless_the_map_says_otherwise() throws Exception {
        NotedLoops.write(folder.resolve("A3.wav"), NotedLoops.Place.BEHIND_THE_DATA, 0, List.of(100, 299));
        Files.copy(folder.resolve("A3.wav"), folder.resolve("A4.wav"));
        NotedLoops.write(folder.resolve("A5.wav"), NotedLoops.Place.BEHIND_THE_DATA, 0, List.of());
        SampleMap map = read(
                "<region> sample=A3.wav",
                "<region> sample=A3.wav loop_mode=loop_sustain loop_end=250",
                "<region> sample=A3.wav loop_mode=no_loop",
                "<region> sample=A5.wav");
        assertThat(map.entries())
                .extracting(
                        entry -> entry.region().loop(), entry -> entry.region().loopStart(), entry -> entry.region()
                                .loopEnd())
                .containsExactly(
                        tuple(Region.Loop.CONTINUOUS, 100L, 300L),
                        tuple(Region.Loop.SUSTAIN, 100L, 251L),
                        tuple(Region.Loop.NONE, 100L, 300L),
                        tuple(Region.Loop.NONE, 0L, 0L));
        assertThat(NamedSamples.read(folder).entries())
                .extracting(
                        entry -> entry.region().loop(), entry -> entry.region().loopEnd())
                .containsExactly(
                        tuple(Region.Loop.CONTINUOUS, 300L),
                        tuple(Region.Loop.CONTINUOUS, 300L),
                        tuple(Region.Loop.NONE, 0L));
    }
}
