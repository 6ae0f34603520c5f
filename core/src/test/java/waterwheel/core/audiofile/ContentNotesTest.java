package waterwheel.core.audiofile;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatIOException;

import java.nio.file.Files;
import java.nio.file.Path;
import java.nio.file.attribute.FileTime;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.DisplayNameGeneration;
import org.junit.jupiter.api.DisplayNameGenerator;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;

/** A file's content is read once, as long as its size and time say that it is the same. */
@DisplayNameGeneration(DisplayNameGenerator.ReplaceUnderscores.class)
class ContentNotesTest {
    private static final FileTime TIME = FileTime.fromMillis(1_700_000_000_000L);

    @TempDir
    Path folder;

    private Path audio;
    private Path cache;

    @BeforeEach
    void a_file_and_a_cache() throws Exception {
        audio = folder.resolve("take.wav");
        cache = Files.createDirectory(folder.resolve("cache"));
        write("first");
    }

    /** Writes as many bytes at the same time of the clock, as if nobody had written. */
    private void write(String content) throws Exception {
        Files.writeString(audio, content);
        Files.setLastModifiedTime(audio, TIME);
    }

    private String opened() throws Exception {
        ContentNotes notes = ContentNotes.in(cache);
        String hash = notes.of(audio);
        notes.keep();
        return hash;
    }

    @Test
    void what_is_noted_is_not_read_again() throws Exception {
        String first = opened();
        assertThat(first).isEqualTo(ContentHash.of(audio));
        write("other");
        assertThat(opened()).as("size and time are the same").isEqualTo(first);
    }

    @Test
    void another_time_or_size_has_it_read_again() throws Exception {
        String first = opened();
        write("longer than first");
        assertThat(opened()).isEqualTo(ContentHash.of(audio)).isNotEqualTo(first);
        write("longer than other");
        Files.setLastModifiedTime(audio, FileTime.fromMillis(TIME.toMillis() + 1));
        assertThat(opened()).isEqualTo(ContentHash.of(audio));
    }

    @Test
    void damaged_notes_are_none() throws Exception {
        String first = opened();
        for (String damage : new String[] {"", "[]", "{\"x\":", "{\"" + audio + "\": 7}"}) {
            Files.writeString(cache.resolve(ContentNotes.FILE), damage);
            assertThat(opened()).as(damage).isEqualTo(first);
        }
    }

    @Test
    void without_a_cache_nothing_is_noted_and_a_missing_file_is_told_of() throws Exception {
        Files.delete(cache);
        write("other");
        assertThat(opened()).isEqualTo(ContentHash.of(audio));
        assertThat(cache).doesNotExist();
        Files.delete(audio);
        assertThatIOException().isThrownBy(this::opened);
    }
}
