package waterwheel.core.work;

import java.util.List;
import java.util.concurrent.atomic.AtomicInteger;
import java.util.concurrent.atomic.AtomicIntegerArray;
import java.util.concurrent.atomic.AtomicLong;
import java.util.concurrent.atomic.AtomicReference;
import java.util.concurrent.locks.LockSupport;
import org.jspecify.annotations.Nullable;

/**
 * Threads that share small jobs: {@link #run} hands out the tasks 0 to n - 1 and returns when all are done. Between
 * jobs that follow each other closely the workers spin; after a tenth of a millisecond or so they sleep. Nothing is allocated
 * or locked by a job.
 *
 * <p>One thread at a time may call {@code run}; it works along.
 */
public final class Team implements AutoCloseable {
    /** A job: does one of its tasks. */
    public interface Job {
        void run(int task);
    }

    private static final int SPINS = 4_000;
    private static final int FIELD_BITS = 20;
    private static final long FIELD = (1L << FIELD_BITS) - 1;

    private final Thread[] workers;
    /**
     * Number of the job (24 bits), how many tasks it has (20 bits), the next one (20 bits). All in one word, because a
     * worker that is late for one job must not take its next task by the count of the following one.
     */
    private final AtomicLong claim = new AtomicLong();

    /** 1 for a worker that sleeps or is about to. */
    private final AtomicIntegerArray asleep;

    private final AtomicInteger done = new AtomicInteger();
    private Job job = task -> {};
    private volatile @Nullable Throwable failure;
    private volatile boolean closed;

    /** @param threads how many work, the caller among them; 1 or more */
    public Team(int threads) {
        workers = new Thread[Math.max(0, threads - 1)];
        asleep = new AtomicIntegerArray(workers.length);
        for (int i = 0; i < workers.length; i++) {
            int number = i;
            workers[i] = Thread.ofPlatform()
                    .daemon()
                    .name("waterwheel-engine-" + (i + 1))
                    .start(() -> work(number));
        }
    }

    /** A team of the caller alone, which needs no closing. */
    public static Team alone() {
        return new Team(1);
    }

    /** How many threads work, the caller of {@link #run} among them. */
    public int threads() {
        return workers.length + 1;
    }

    /** A team of as many threads as the machine has processors. */
    public static Team ofAllProcessors() {
        return new Team(Runtime.getRuntime().availableProcessors());
    }

    /** Does all tasks of a job. What a task throws is thrown here, after the others have ended. */
    public void run(int count, Job work) {
        if (workers.length == 0 || count == 1) {
            for (int i = 0; i < count; i++) {
                work.run(i);
            }
            return;
        }
        if (count > FIELD) {
            throw new IllegalArgumentException("count: " + count + " (expected: at most " + FIELD + ")");
        }
        job = work;
        done.set(0);
        long word = (((claim.get() >>> (2 * FIELD_BITS)) + 1) << (2 * FIELD_BITS)) | ((long) count << FIELD_BITS);
        claim.set(word);
        long number = word >>> (2 * FIELD_BITS);
        for (int i = 0; i < Math.min(workers.length, count - 1); i++) {
            // Waking one that is awake would still cost several microseconds.
            if (asleep.get(i) == 1) {
                LockSupport.unpark(workers[i]);
            }
        }
        take(number);
        while (done.get() < count) {
            Thread.onSpinWait();
        }
        rethrow();
    }

    /**
     * Makes something of an item.
     *
     * @param <E> what it may be refused by
     */
    public interface Making<T, R, E extends Exception> {
        R of(T item) throws E;
    }

    /**
     * Makes something of each of some items, some at a time, as by {@link #run}.
     *
     * @return in the items' order
     * @throws E if one is refused, after the others have ended
     */
    public <T, R, E extends Exception> List<R> map(List<T> items, Making<T, R, E> making) throws E {
        List<AtomicReference<R>> made =
                items.stream().map(item -> new AtomicReference<R>()).toList();
        try {
            run(items.size(), i -> {
                try {
                    made.get(i).set(making.of(items.get(i)));
                } catch (RuntimeException e) {
                    throw e;
                } catch (Exception e) {
                    throw new Refused(e);
                }
            });
        } catch (Refused e) {
            @SuppressWarnings("unchecked") // Nothing else that is checked comes from there.
            E reason = (E) e.reason;
            throw reason;
        }
        return made.stream().map(AtomicReference::get).toList();
    }

    /** Carries a refusal from the thread that met it. */
    private static final class Refused extends RuntimeException {
        private static final long serialVersionUID = 1L;
        private final Exception reason;

        Refused(Exception reason) {
            super(reason);
            this.reason = reason;
        }
    }

    private void rethrow() {
        Throwable thrown = failure;
        if (thrown != null) {
            failure = null;
            throw thrown instanceof RuntimeException e ? e : new IllegalStateException(thrown);
        }
    }

    private void work(int worker) {
        long seen = 0;
        int spins = 0;
        while (!closed) {
            long number = claim.get() >>> (2 * FIELD_BITS);
            if (number != seen) {
                seen = number;
                spins = 0;
                take(number);
            } else if (spins++ < SPINS) {
                Thread.onSpinWait();
            } else {
                asleep.set(worker, 1);
                // A job that came before this was seen here, one that comes after wakes the sleeper.
                if (claim.get() >>> (2 * FIELD_BITS) == seen && !closed) {
                    LockSupport.park(this);
                }
                asleep.set(worker, 0);
            }
        }
    }

    private void take(long number) {
        while (true) {
            long now = claim.get();
            int task = (int) (now & FIELD);
            if (now >>> (2 * FIELD_BITS) != number || task >= ((now >>> FIELD_BITS) & FIELD)) {
                return;
            }
            if (claim.compareAndSet(now, now + 1)) {
                try {
                    job.run(task);
                } catch (Throwable e) {
                    failure = e;
                } finally {
                    done.incrementAndGet();
                }
            }
        }
    }

    @Override
    public void close() {
        closed = true;
        for (Thread worker : workers) {
            LockSupport.unpark(worker);
        }
    }
}
