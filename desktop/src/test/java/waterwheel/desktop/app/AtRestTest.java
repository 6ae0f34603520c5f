package waterwheel.desktop.app;

import static org.assertj.core.api.Assertions.assertThat;

import java.util.concurrent.atomic.AtomicInteger;
import javafx.scene.input.KeyCode;
import org.junit.jupiter.api.Test;

/** While all stands, nothing asks for frames; while something plays, each is told. */
class AtRestTest extends DrivenApplication {
    private int told(AtomicInteger count, long millis) throws Exception {
        int before = count.get();
        Thread.sleep(millis);
        return count.get() - before;
    }

    @Test
    void levels_are_told_while_something_plays_and_not_while_all_stands() throws Exception {
        AtomicInteger levels = new AtomicInteger();
        AtomicInteger watched = new AtomicInteger();
        robot.interact(() -> {
            model().transport().listen((peaks, seconds) -> levels.incrementAndGet());
            model().transport().watch((peaks, seconds) -> watched.incrementAndGet());
            model().transport().playOrStop();
        });
        until(() -> model().transport().playingProperty().get());
        until(() -> levels.get() > 5);
        robot.interact(() -> model().transport().playOrStop());
        until(() -> !model().transport().playingProperty().get());
        // What falls back has three seconds for it; where the machine is busy it may be told later.
        until(() -> isQuiet(levels));
        assertThat(told(levels, 500)).as("at rest").isZero();
        assertThat(told(watched, 1_000)).as("ten times a second").isBetween(1, 12);
        robot.push(KeyCode.ESCAPE);
    }

    /** Whether four seconds pass without a frame: one more than what falls back has for it. */
    private static boolean isQuiet(AtomicInteger count) {
        int before = count.get();
        try {
            Thread.sleep(4_000);
        } catch (InterruptedException e) {
            Thread.currentThread().interrupt();
        }
        return count.get() == before;
    }
}
