package waterwheel.core.songs;

import java.time.Duration;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import java.util.concurrent.CancellationException;
import java.util.concurrent.TimeUnit;
import java.util.function.Consumer;
import org.jspecify.annotations.Nullable;
import waterwheel.core.order.RunningOrder;
import waterwheel.core.order.SongId;
import waterwheel.core.work.Progress;
import waterwheel.core.work.Team;

/**
 * Keeps a running order's levels true in the background: after a change of it, and after a change of any song's files,
 * which it looks at again and again. What is known is published at once, what must be measured song by song; what is not
 * known is pending, never stale.
 *
 * <p>{@link #submit} may be called by any thread; results come on the watch's own thread.
 */
public final class OrderWatch implements AutoCloseable {
    private static final Duration PAUSE = Duration.ofSeconds(1);

    private final Consumer<OrderLevels> listener;
    private final Consumer<RuntimeException> failures;
    private final Duration pause;
    private final Thread thread;
    private @Nullable RunningOrder next;
    private volatile @Nullable SongId first;
    private volatile boolean overtaken;
    private volatile boolean closed;

    // Belong to the watch's thread.
    private final OrderMeasurement measurement;
    private List<SongRow> rows = List.of();

    /**
     * Starts watching.
     *
     * @param listener takes results, newest last
     * @param failures takes what a measurement failed with, such as a full disk
     */
    public OrderWatch(OrderPlace place, Consumer<OrderLevels> listener, Consumer<RuntimeException> failures) {
        this(place, listener, failures, PAUSE);
    }

    /** @param pause how long it waits from one look at the files to the next */
    OrderWatch(OrderPlace place, Consumer<OrderLevels> listener, Consumer<RuntimeException> failures, Duration pause) {
        this.listener = listener;
        this.failures = failures;
        this.pause = pause;
        measurement = new OrderMeasurement(place);
        thread = Thread.ofPlatform().daemon().name("waterwheel-songs").start(this::watch);
    }

    /** Makes this the running order whose levels are wanted. */
    public synchronized void submit(RunningOrder order) {
        next = order;
        overtaken = true;
        notifyAll();
    }

    /** Has a song measured before others. */
    public void prefer(@Nullable SongId song) {
        first = song;
    }

    private synchronized @Nullable RunningOrder take(@Nullable RunningOrder present) throws InterruptedException {
        long end = System.nanoTime() + pause.toNanos();
        for (long left = pause.toNanos(); next == null && !closed && left > 0; left = end - System.nanoTime()) {
            TimeUnit.NANOSECONDS.timedWait(this, left);
        }
        RunningOrder taken = next == null ? present : next;
        next = null;
        overtaken = closed;
        return taken;
    }

    private void watch() {
        RunningOrder present = null;
        try (Team team = Team.ofAllProcessors()) {
            while (!closed) {
                RunningOrder order = take(present);
                if (order == null || closed) {
                    continue;
                }
                try {
                    follow(order, !order.equals(present), team);
                } catch (CancellationException e) {
                    // A newer one is waiting.
                } catch (RuntimeException e) {
                    failures.accept(e);
                }
                present = order;
            }
        } catch (InterruptedException e) {
            Thread.currentThread().interrupt();
        }
    }

    /** @param changed whether the running order is another than the one before */
    private void follow(RunningOrder order, boolean changed, Team team) {
        if (changed || !rows.stream().allMatch(row -> measurement.holds(row, order))) {
            rows = order.songs().stream()
                    .map(song -> measurement.known(song, order))
                    .toList();
            publish(order);
        }
        boolean measured = false;
        for (Optional<SongRow> pending = pending(); pending.isPresent(); pending = pending()) {
            SongRow row = measurement.measured(pending.get().song(), order, team, new UntilOvertaken());
            List<SongRow> more = new ArrayList<>(rows);
            more.set(rows.indexOf(pending.get()), row);
            rows = List.copyOf(more);
            measured = true;
            publish(order);
        }
        if (measured) {
            measurement.sweep(new OrderLevels(order, rows));
        }
    }

    private Optional<SongRow> pending() {
        return rows.stream()
                .filter(SongRow::isPending)
                .filter(row -> row.song().id().equals(first))
                .findFirst()
                .or(() -> rows.stream().filter(SongRow::isPending).findFirst());
    }

    private void publish(RunningOrder order) {
        listener.accept(new OrderLevels(order, rows));
    }

    /** Stops; a running measurement ends within a block. */
    @Override
    public void close() {
        synchronized (this) {
            closed = true;
            overtaken = true;
            notifyAll();
        }
        try {
            thread.join();
        } catch (InterruptedException e) {
            Thread.currentThread().interrupt();
        }
    }

    /** Ends work as soon as a newer running order is there. */
    private final class UntilOvertaken implements Progress {
        @Override
        public void at(double part) {}

        @Override
        public boolean stopped() {
            return overtaken;
        }
    }
}
