package waterwheel.desktop.app;

import static org.assertj.core.api.Assertions.assertThat;

import java.nio.file.Files;
import java.nio.file.Path;
import org.junit.jupiter.api.DisplayNameGeneration;
import org.junit.jupiter.api.DisplayNameGenerator;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;

@DisplayNameGeneration(DisplayNameGenerator.ReplaceUnderscores.class)
class SettingsTest {
    @TempDir
    Path folder;

    private Path session(String name) throws Exception {
        return Files.createDirectories(folder.resolve("sessions").resolve(name));
    }

    @Test
    void nothing_is_remembered_before_the_first_start() {
        Settings settings = Settings.in(folder.resolve("not there"));
        assertThat(settings.light()).isFalse();
        assertThat(settings.recent()).isEmpty();
    }

    @Test
    void the_theme_outlives_the_application() {
        Settings.in(folder).setLight(true);
        assertThat(Settings.in(folder).light()).isTrue();
    }

    @Test
    void recent_sessions_come_newest_first_and_once_each() throws Exception {
        Settings settings = Settings.in(folder);
        settings.addRecent(session("one"));
        settings.addRecent(session("two"));
        settings.addRecent(session("one"));
        assertThat(Settings.in(folder).recent()).containsExactly(session("one"), session("two"));
    }

    @Test
    void only_the_latest_eight_are_kept() throws Exception {
        Settings settings = Settings.in(folder);
        for (int i = 0; i < 12; i++) {
            settings.addRecent(session("song " + i));
        }
        assertThat(Settings.in(folder).recent())
                .hasSize(8)
                .startsWith(session("song 11"))
                .endsWith(session("song 4"));
    }

    @Test
    void a_session_whose_folder_is_gone_is_left_out() throws Exception {
        Settings settings = Settings.in(folder);
        Path gone = session("gone");
        settings.addRecent(gone);
        settings.addRecent(session("stays"));
        Files.delete(gone);
        assertThat(settings.recent()).containsExactly(session("stays"));
    }

    @Test
    void a_settings_file_that_is_none_is_no_error() throws Exception {
        Files.writeString(folder.resolve("settings.properties"), "theme.light=\\uZZZZ\n");
        Settings settings = Settings.in(folder);
        assertThat(settings.light()).isFalse();
        settings.setLight(true);
        assertThat(Settings.in(folder).light()).isTrue();
    }

    @Test
    void a_place_that_cannot_be_written_is_no_error() throws Exception {
        Path file = Files.writeString(folder.resolve("file"), "not a folder");
        Settings settings = Settings.in(file.resolve("below"));
        settings.setLight(true);
        assertThat(settings.light()).isTrue();
    }
}
