package waterwheel.core.audiofile;

import static org.assertj.core.api.Assertions.assertThat;

import java.nio.file.Files;
import java.nio.file.Path;
import java.util.Arrays;
import java.util.List;
import java.util.Optional;
import org.junit.jupiter.api.DisplayNameGeneration;
import org.junit.jupiter.api.DisplayNameGenerator;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.EnumSource;
import waterwheel.core.testing.NotedLoops;

/** A WAV file notes where its sample goes round. */
@DisplayNameGeneration(DisplayNameGenerator.ReplaceUnderscores.class)
class SampleLoopTest {
    @TempDir
    Path folder;

    private Path file() {
        return folder.resolve("sample.wav");
    }

    @ParameterizedTest
    @EnumSource(NotedLoops.Place.class)
    void the_last_frame_that_is_noted_is_played_wherever_the_chunk_stands(NotedLoops.Place place) throws Exception {
        Path file = NotedLoops.write(file(), place, 0, List.of(100, 299));
        assertThat(SampleLoop.of(file)).contains(new SampleLoop(100, 300));
        // The samples are found as before.
        try (AudioFile audio = AudioFiles.open(file)) {
            assertThat(audio.format().frames()).isEqualTo(1_000);
        }
    }

    @Test
    void loops_that_go_back_and_forth_or_end_before_they_begin_are_none() throws Exception {
        assertThat(SampleLoop.of(NotedLoops.write(file(), NotedLoops.Place.BEHIND_THE_DATA, 1, List.of(100, 299))))
                .isEmpty();
        assertThat(SampleLoop.of(NotedLoops.write(file(), NotedLoops.Place.BEHIND_THE_DATA, 0, List.of(300, 298))))
                .isEmpty();
        assertThat(SampleLoop.of(NotedLoops.write(file(), NotedLoops.Place.BEHIND_THE_DATA, 0, List.of())))
                .isEmpty();
        assertThat(SampleLoop.of(folder.resolve("none.wav"))).isEmpty();
    }

    /** Whatever is cut off of it, or is no WAV file at all. */
    @Test
    void files_that_end_anywhere_note_no_loop_or_the_one_they_have() throws Exception {
        byte[] whole =
                Files.readAllBytes(NotedLoops.write(file(), NotedLoops.Place.BEFORE_THE_DATA, 0, List.of(100, 299)));
        for (int length = 0; length < whole.length; length++) {
            Path cut = Files.write(folder.resolve("cut.wav"), Arrays.copyOf(whole, length));
            assertThat(SampleLoop.of(cut)).isIn(Optional.empty(), Optional.of(new SampleLoop(100, 300)));
        }
    }
}
