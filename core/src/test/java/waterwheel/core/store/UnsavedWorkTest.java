package waterwheel.core.store;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.within;

import java.nio.file.Files;
import java.nio.file.Path;
import java.time.Instant;
import java.time.temporal.ChronoUnit;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.DisplayNameGeneration;
import org.junit.jupiter.api.DisplayNameGenerator;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import waterwheel.core.session.Session;
import waterwheel.core.testing.Sessions;
import waterwheel.core.testing.Signals;

@DisplayNameGeneration(DisplayNameGenerator.ReplaceUnderscores.class)
class UnsavedWorkTest {
    @TempDir
    Path folder;

    private Session saved = new Sessions(Path.of("")).build();
    private Session changed = saved;

    @BeforeEach
    void save_a_session() throws Exception {
        saved = new Sessions(folder)
                .track("voice", "main", Signals.noise(0.1, 100, 1))
                .build();
        changed = saved.withStrip(Sessions.id("voice"), s -> s.withTrimDb(-3));
        SessionFolder.save(saved, folder);
    }

    @Test
    void what_was_kept_is_found_and_the_saved_session_is_untouched() throws Exception {
        UnsavedWork.keep(changed, "Trim of one", folder);
        assertThat(UnsavedWork.find(folder, saved)).hasValueSatisfying(found -> {
            assertThat(found.session()).isEqualTo(changed);
            assertThat(found.lastChange()).isEqualTo("Trim of one");
            assertThat(found.keptAt()).isCloseTo(Instant.now(), within(1, ChronoUnit.MINUTES));
        });
        assertThat(SessionFolder.load(folder).session()).isEqualTo(saved);
    }

    @Test
    void nothing_is_found_where_nothing_was_kept_or_it_was_forgotten() throws Exception {
        assertThat(UnsavedWork.find(folder, saved)).isEmpty();
        UnsavedWork.keep(changed, "Trim of one", folder);
        UnsavedWork.forget(folder);
        assertThat(UnsavedWork.find(folder, saved)).isEmpty();
        UnsavedWork.forget(folder);
    }

    @Test
    void what_was_saved_after_all_is_no_unsaved_work() throws Exception {
        UnsavedWork.keep(changed, "Trim of one", folder);
        assertThat(UnsavedWork.find(folder, changed)).isEmpty();
    }

    @Test
    void a_damaged_file_is_as_good_as_none() throws Exception {
        Files.writeString(folder.resolve(UnsavedWork.FILE), "{ half a file");
        assertThat(UnsavedWork.find(folder, saved)).isEmpty();
    }
}
