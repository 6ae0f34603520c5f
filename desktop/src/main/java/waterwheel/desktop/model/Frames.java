package waterwheel.desktop.model;

import java.util.function.LongConsumer;
import javafx.animation.AnimationTimer;

/** Does something once a frame while something moves, and four times a second while all stands. Interface thread. */
public final class Frames implements AutoCloseable {
    private static final double AT_REST_SECONDS = 0.25;
    /** So long after the last movement what falls back has fallen, in nanoseconds. */
    private static final long LIVELY_NANOS = 3_000_000_000L;

    private final LongConsumer work;
    private final Beat beat;
    private boolean lively;
    private long movedNanos;
    private final AnimationTimer timer = new AnimationTimer() {
        @Override
        public void handle(long now) {
            work.accept(now);
            if (System.nanoTime() - movedNanos > LIVELY_NANOS) {
                lively = false;
                stop();
            }
        }
    };

    /** @param work told the time in nanoseconds, from any beginning */
    public Frames(LongConsumer work) {
        this.work = work;
        beat = new Beat(AT_REST_SECONDS, this::atRest);
    }

    private void atRest() {
        if (!lively) {
            work.accept(System.nanoTime());
        }
    }

    /** Something moves, or is about to. */
    public void moving() {
        movedNanos = System.nanoTime();
        if (!lively) {
            lively = true;
            timer.start();
        }
    }

    /** Whether something moves, or did within the last seconds. */
    public boolean areMoving() {
        return lively;
    }

    @Override
    public void close() {
        timer.stop();
        beat.close();
    }
}
