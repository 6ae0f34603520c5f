package waterwheel.core.work;

import static org.assertj.core.api.Assertions.assertThat;

import java.nio.file.Files;
import java.nio.file.Path;
import java.util.HashSet;
import java.util.Set;
import org.junit.jupiter.api.DisplayNameGeneration;
import org.junit.jupiter.api.DisplayNameGenerator;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;

@DisplayNameGeneration(DisplayNameGenerator.ReplaceUnderscores.class)
class LeftoversTest {
    @TempDir
    Path folder;

    /** A name as a process gave it that lives no more. */
    private Path ofTheDead(String what) throws Exception {
        Process process = new ProcessBuilder("true").start();
        long pid = process.pid();
        process.waitFor();
        return folder.resolve(".ww-" + what + "-" + pid + "-1234-1");
    }

    @Test
    void names_never_meet() {
        Set<Path> names = new HashSet<>();
        for (int i = 0; i < 1_000; i++) {
            assertThat(names.add(Leftovers.name(folder, "part"))).isTrue();
        }
    }

    @Test
    void what_a_dead_process_left_goes_and_what_a_living_one_works_at_stays() throws Exception {
        Path living = Files.createDirectory(Leftovers.name(folder, "rendering"));
        Files.writeString(living.resolve("half"), "x");
        Path part = Files.writeString(ofTheDead("part"), "x");
        Path rendering = Files.createDirectory(ofTheDead("rendering"));
        Files.writeString(rendering.resolve("half"), "x");
        // The number of a process that lives, but began at another time: another process had it before.
        Path reused = Files.writeString(
                folder.resolve(".ww-part-" + ProcessHandle.current().pid() + "-77-1"), "x");
        Path others = Files.writeString(folder.resolve(".hidden"), "x");
        Path alike = Files.writeString(folder.resolve(".ww-part-x-1-1"), "x");
        Leftovers.sweep(folder);
        assertThat(living.resolve("half")).exists();
        assertThat(others).exists();
        assertThat(alike).exists();
        assertThat(part).doesNotExist();
        assertThat(rendering).doesNotExist();
        assertThat(reused).doesNotExist();
        Leftovers.sweep(folder.resolve("not there"));
    }

    @Test
    void files_being_made_go_with_the_list_of_them_and_nothing_else_does() throws Exception {
        Path audio = Files.createDirectory(folder.resolve("audio"));
        Path made = Files.writeString(audio.resolve("made.wav"), "x");
        Path own = Files.writeString(folder.resolve("own.wav"), "x");
        Path outside = Files.writeString(folder.resolveSibling(folder.getFileName() + "-outside.wav"), "x");
        Files.writeString(ofTheDead("making"), "audio/made.wav\n../" + outside.getFileName() + "\nnever made.wav\n");
        Leftovers.sweep(folder);
        assertThat(made).doesNotExist();
        assertThat(audio).as("made for it, and empty now").doesNotExist();
        assertThat(own).exists();
        assertThat(outside).exists();
        Files.delete(outside);
    }

    @Test
    void what_is_whole_stays_and_what_fails_goes() throws Exception {
        Path whole = folder.resolve("whole.wav");
        try (Leftovers.Making making = new Leftovers.Making(folder)) {
            making.making(whole);
            Files.writeString(whole, "x");
            making.done();
        }
        assertThat(whole).exists();
        Path half = folder.resolve("half.wav");
        try (Leftovers.Making making = new Leftovers.Making(folder)) {
            making.making(half);
            Files.writeString(half, "x");
        }
        assertThat(half).doesNotExist();
        assertThat(folder).isDirectoryContaining(file -> file.equals(whole));
        assertThat(folder.toFile().list()).hasSize(1);
    }
}
