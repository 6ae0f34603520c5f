package waterwheel.core.store;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatExceptionOfType;

import java.nio.file.Files;
import java.nio.file.Path;
import java.time.Duration;
import java.util.ArrayList;
import java.util.List;
import java.util.concurrent.Callable;
import java.util.concurrent.ExecutorService;
import java.util.concurrent.Executors;
import java.util.concurrent.Future;
import java.util.concurrent.TimeUnit;
import org.junit.jupiter.api.DisplayNameGeneration;
import org.junit.jupiter.api.DisplayNameGenerator;
import org.junit.jupiter.api.Tag;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import waterwheel.core.errors.SessionFileException;
import waterwheel.core.session.Session;
import waterwheel.core.testing.Sessions;
import waterwheel.core.testing.Signals;

@DisplayNameGeneration(DisplayNameGenerator.ReplaceUnderscores.class)
class SessionLockTest {
    private static final int SAVERS = 4;
    private static final int SAVES = 25;

    @TempDir
    Path folder;

    private Session saved() throws Exception {
        Session session = new Sessions(folder)
                .track("one", "main", Signals.noise(0.1, 10, 1))
                .build();
        SessionFolder.save(session, folder);
        return session;
    }

    @Test
    void of_savers_who_count_none_loses_a_count() throws Exception {
        Session session = saved();
        List<Callable<Void>> savers = new ArrayList<>();
        for (int s = 0; s < SAVERS; s++) {
            savers.add(() -> {
                for (int i = 0; i < SAVES; i++) {
                    try (SessionLock lock = SessionLock.acquire(folder, Duration.ofMinutes(1))) {
                        SessionFolder.Loaded read = SessionFolder.load(folder);
                        double now = read.session().main().strip().trimDb();
                        lock.save(read.session().withStrip(Sessions.MAIN, m -> m.withTrimDb(now + 0.125)), read);
                    }
                }
                return null;
            });
        }
        try (ExecutorService threads = Executors.newFixedThreadPool(SAVERS)) {
            for (Future<Void> done : threads.invokeAll(savers)) {
                done.get();
            }
        }
        assertThat(SessionFolder.load(folder).session())
                .isEqualTo(session.withStrip(Sessions.MAIN, m -> m.withTrimDb(SAVERS * SAVES * 0.125)));
    }

    @Test
    void who_waits_too_long_gives_up_with_a_sentence() throws Exception {
        saved();
        try (SessionLock held = SessionLock.acquire(folder)) {
            assertThat(held).isNotNull();
            assertThatExceptionOfType(SessionFileException.class)
                    .isThrownBy(() -> SessionLock.acquire(folder, Duration.ofMillis(100)))
                    .withMessageContaining("being saved by another Waterwheel");
        }
        SessionLock.acquire(folder, Duration.ofMillis(100)).close();
    }

    @Test
    @Tag("process") // started from the class path
    void a_dead_process_keeps_none() throws Exception {
        saved();
        Process holder = new ProcessBuilder(
                        Path.of(System.getProperty("java.home"), "bin", "java").toString(),
                        "-cp",
                        System.getProperty("java.class.path"),
                        Holder.class.getName(),
                        folder.toString())
                .start();
        assertThat(holder.inputReader().readLine()).isEqualTo("held");
        assertThatExceptionOfType(SessionFileException.class)
                .isThrownBy(() -> SessionLock.acquire(folder, Duration.ofMillis(200)));
        holder.destroyForcibly();
        assertThat(holder.waitFor(20, TimeUnit.SECONDS)).isTrue();
        SessionLock.acquire(folder, Duration.ofSeconds(5)).close();
    }

    /** Holds the right to save until it is killed. */
    static final class Holder {
        private Holder() {}

        public static void main(String[] args) throws Exception {
            try (SessionLock lock = SessionLock.acquire(Path.of(args[0]))) {
                System.out.println(lock == null ? "nothing" : "held");
                Thread.sleep(Duration.ofMinutes(10));
            }
        }
    }

    @Test
    void a_file_that_somebody_else_changed_is_not_saved_over() throws Exception {
        Session session = saved();
        SessionFolder.Loaded read = SessionFolder.load(folder);
        assertThat(SessionFolder.changedSince(folder, read)).isFalse();
        SessionFolder.save(session.withTitle("Another's"), folder);
        assertThat(SessionFolder.changedSince(folder, read)).isTrue();
        try (SessionLock lock = SessionLock.acquire(folder)) {
            assertThatExceptionOfType(SessionFileException.class)
                    .isThrownBy(() -> lock.save(session.withTitle("Mine"), read))
                    .withMessageContaining("was changed by another program");
        }
        assertThat(SessionFolder.load(folder).session().title()).isEqualTo("Another's");
        Files.delete(folder.resolve(SessionFolder.SESSION_FILE));
        assertThat(SessionFolder.changedSince(folder, read))
                .as("gone is not changed")
                .isFalse();
    }
}
