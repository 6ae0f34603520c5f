package waterwheel.core.songs;

import static org.assertj.core.api.Assertions.assertThat;

import java.nio.file.Files;
import java.nio.file.Path;
import java.util.List;
import java.util.Set;
import org.junit.jupiter.api.DisplayNameGeneration;
import org.junit.jupiter.api.DisplayNameGenerator;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.ValueSource;

@DisplayNameGeneration(DisplayNameGenerator.ReplaceUnderscores.class)
class FiguresCacheTest {
    private static final String STAMP = "ab".repeat(32);

    @TempDir
    @SuppressWarnings("NullAway.Init")
    Path folder;

    private static SongLevels levels(String stamp) {
        Level loud = new Level(-18.1234567890123, 3.2, -1.0000001, -1.2);
        Level silent = new Level(Double.NEGATIVE_INFINITY, 0, Double.NEGATIVE_INFINITY, Double.NEGATIVE_INFINITY);
        Level section = new Level(-20, 1, Double.NaN, -3);
        return new SongLevels(
                stamp,
                211.25,
                44_100,
                List.of("Verse", "\u201cChorus\u201d"),
                List.of(
                        new PartLevels("Drums", false, List.of("Kick", "Snare \u266a"), loud, List.of(section, silent)),
                        new PartLevels("Click", true, List.of("Click"), silent, List.of(silent, silent))),
                new PartLevels("", false, List.of(), loud, List.of(section, section)),
                List.of("It has no Bass, as most songs have."));
    }

    @Test
    void figures_come_back_to_the_last_bit() {
        FiguresCache cache = new FiguresCache(folder.resolve("figures"));
        assertThat(cache.find(STAMP)).isEmpty();
        cache.keep(levels(STAMP));
        assertThat(new FiguresCache(folder.resolve("figures")).find(STAMP)).hasValue(levels(STAMP));
    }

    @ParameterizedTest
    @ValueSource(strings = {"", "{", "[]", "null", "{\"parts\":3}", "{\"sum\":{\"whole\":[\"x\",1,2,3]}}"})
    void what_is_damaged_is_as_if_it_were_not_there(String text) throws Exception {
        FiguresCache cache = new FiguresCache(folder);
        cache.keep(levels(STAMP));
        Files.writeString(folder.resolve(STAMP + ".json"), text);
        assertThat(cache.find(STAMP)).isEmpty();
    }

    @Test
    void what_is_true_of_no_song_any_more_goes_and_nothing_else() throws Exception {
        FiguresCache cache = new FiguresCache(folder);
        String other = "cd".repeat(32);
        cache.keep(levels(STAMP));
        cache.keep(levels(other));
        Files.writeString(folder.resolve("notes.txt"), "mine");
        cache.keepOnly(Set.of(other));
        assertThat(cache.find(STAMP)).isEmpty();
        assertThat(cache.find(other)).isPresent();
        assertThat(folder.resolve("notes.txt")).exists();
    }

    @Test
    void where_the_disk_refuses_nothing_is_kept_and_nothing_fails() throws Exception {
        Path file = Files.writeString(folder.resolve("figures"), "a file where a folder should be");
        FiguresCache cache = new FiguresCache(file);
        cache.keep(levels(STAMP));
        assertThat(cache.find(STAMP)).isEmpty();
        cache.keepOnly(Set.of());
        assertThat(file).hasContent("a file where a folder should be");
    }
}
