package waterwheel.core.engine;

import static org.assertj.core.api.Assertions.assertThat;

import java.nio.file.Files;
import java.nio.file.Path;
import java.nio.file.StandardCopyOption;
import java.nio.file.attribute.FileTime;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.DisplayNameGeneration;
import org.junit.jupiter.api.DisplayNameGenerator;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import waterwheel.core.session.Session;
import waterwheel.core.sources.SourceId;
import waterwheel.core.testing.Sessions;
import waterwheel.core.testing.Signals;

/** The session's open files. */
@DisplayNameGeneration(DisplayNameGenerator.ReplaceUnderscores.class)
class MediaTest {
    @TempDir
    Path folder;

    private Session session;
    private SourceId room;
    private SourceId other;

    @BeforeEach
    void two_files() throws Exception {
        session = new Sessions(folder)
                .track("room", "main", Signals.noise(0.5, 4_000, 1))
                .track("other", "main", Signals.noise(0.5, 4_000, 2))
                .build();
        room = session.sources().getFirst().id();
        other = session.sources().getLast().id();
    }

    private Path file(SourceId id) {
        return folder.resolve(session.source(id).path());
    }

    @Test
    void a_response_is_read_once_and_goes_on_in_media_opened_later() {
        try (Media first = Media.open(session, folder);
                Media later = Media.open(session, folder)) {
            assertThat(first.response(room)).isNotNull().isSameAs(first.response(room));
            later.keepResponses(first);
            assertThat(later.response(room)).isSameAs(first.response(room));
            assertThat(later.response(other)).isNotNull().isNotSameAs(first.response(other));
        }
    }

    @Test
    void a_response_whose_file_was_replaced_is_read_again() throws Exception {
        try (Media first = Media.open(session, folder)) {
            assertThat(first.response(room)).isNotNull();
            Files.copy(file(other), file(room), StandardCopyOption.REPLACE_EXISTING);
            Files.setLastModifiedTime(file(room), FileTime.fromMillis(1_000_000));
            try (Media later = Media.open(session, folder)) {
                later.keepResponses(first);
                assertThat(later.response(room)).isNotNull().isNotSameAs(first.response(room));
            }
        }
    }

    @Test
    void a_missing_file_is_told_and_is_no_response() throws Exception {
        Files.delete(file(room));
        try (Media media = Media.open(session, folder)) {
            assertThat(media.file(room)).isEmpty();
            assertThat(media.file(other)).isPresent();
            assertThat(media.response(room)).isNull();
            assertThat(media.problem(room)).hasMessageContaining("room");
            assertThat(media.problem(other)).isNull();
            assertThat(media.fingerprint(room)).isNotEqualTo(media.fingerprint(other));
        }
    }
}
