package waterwheel.core.levels;

import java.nio.file.Path;
import java.util.ArrayDeque;
import java.util.BitSet;
import java.util.Deque;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Objects;
import java.util.WeakHashMap;
import java.util.concurrent.CancellationException;
import java.util.concurrent.CompletableFuture;
import java.util.function.BiFunction;
import java.util.function.BooleanSupplier;
import java.util.function.Consumer;
import org.jspecify.annotations.Nullable;
import waterwheel.core.captures.Captures;
import waterwheel.core.engine.Media;
import waterwheel.core.engine.Plan;
import waterwheel.core.engine.PlanCompiler;
import waterwheel.core.freezing.Freezes;
import waterwheel.core.metering.LevelSeries;
import waterwheel.core.session.Section;
import waterwheel.core.session.Session;
import waterwheel.core.work.Progress;
import waterwheel.core.work.Team;

/**
 * Keeps a session's levels true in the background. Each change overtakes the one before: a measurement of an older
 * session is finished only if it is nearly done anyway. What is known at once (the stages of a channel whose fader
 * moved) is published at once, what must be measured when it is.
 *
 * <p>{@link #submit} may be called by any thread; results come on the watch's own thread.
 */
public final class LevelWatch implements AutoCloseable {
    /** A measurement that has run this long when the session changes is ended rather than finished. */
    private static final long PATIENCE_NANOS = 250_000_000;
    /** After this long without a change what was measured goes to the disk. */
    private static final long REST_MILLIS = 3_000;

    private final Path folder;
    private final Consumer<SessionLevels> listener;
    private final Consumer<RuntimeException> failures;
    private final MeasureCache cache;
    private final Team team = Team.ofAllProcessors();
    private final StageLevels stages = new StageLevels(team);
    private final FileScans scans;

    private final Thread thread;
    private final Deque<Runnable> questions = new ArrayDeque<>();
    private @Nullable Session next;
    private volatile @Nullable Section section;
    private volatile boolean closed;
    private volatile boolean overtaken;

    // Belong to the watch's thread.
    private @Nullable Media media;
    private @Nullable SongMeasure measure;
    private @Nullable Session opened;
    private boolean tidied;
    /** Whether there is what a change goes on from. */
    private boolean goesOn;

    /** What the levels were measured of that do not lie on the disk yet; null where all do. */
    private @Nullable Plan unkept;

    private @Nullable Section cutTo;
    private final Map<LevelSeries, LevelSeries> cutSeries = new WeakHashMap<>();

    /**
     * Starts watching.
     *
     * @param folder the session's folder
     * @param listener takes results, newest last
     * @param failures takes what a measurement failed with, such as a full disk
     */
    public LevelWatch(Path folder, Consumer<SessionLevels> listener, Consumer<RuntimeException> failures) {
        this.folder = folder;
        cache = MeasureCache.in(folder);
        scans = new FileScans(cache, team);
        this.listener = listener;
        this.failures = failures;
        thread = Thread.ofPlatform().daemon().name("waterwheel-levels").start(this::watch);
    }

    /** Makes this the session whose levels are wanted, over the whole song. */
    public void submit(Session session) {
        submit(session, null);
    }

    /**
     * Makes this the session whose levels are wanted.
     *
     * @param within the section whose levels are wanted too; null for none
     */
    public synchronized void submit(Session session, @Nullable Section within) {
        next = session;
        section = within;
        overtaken = true;
        notifyAll();
    }

    /**
     * Asks the watch for something else that its measurements know, such as what stems will measure.
     *
     * @param question runs on the watch's thread, when no session is waiting to be measured; it should stop when its
     *     progress says that a change overtook it
     * @return its answer, or a {@link CancellationException} where the session changed meanwhile
     */
    public <T> CompletableFuture<T> ask(Session session, BiFunction<SongMeasure, Progress, T> question) {
        CompletableFuture<T> answer = new CompletableFuture<>();
        synchronized (this) {
            questions.add(() -> {
                try {
                    answer.complete(question.apply(open(session), new UntilOvertaken()));
                } catch (RuntimeException e) {
                    answer.completeExceptionally(e);
                }
            });
            notifyAll();
        }
        return answer;
    }

    /** The next thing to do, or null at the end; a session goes before questions. */
    private synchronized @Nullable Runnable await() {
        while (next == null && questions.isEmpty() && !closed) {
            Plan measured = unkept;
            try {
                wait(measured == null ? 0 : REST_MILLIS);
                if (measured != null && next == null && questions.isEmpty() && !closed) {
                    return this::rest;
                }
            } catch (InterruptedException e) {
                Thread.currentThread().interrupt();
                return null;
            }
        }
        if (closed) {
            return null;
        }
        Session session = next;
        if (session == null) {
            return questions.poll();
        }
        next = null;
        overtaken = false;
        return () -> measure(session);
    }

    private void watch() {
        try {
            for (Runnable work = await(); work != null; work = await()) {
                try {
                    work.run();
                } catch (CancellationException e) {
                    // Overtaken: the newer session is waiting.
                } catch (RuntimeException e) {
                    failures.accept(e);
                }
            }
            keepMeasured(() -> false);
        } finally {
            release();
            team.close();
        }
    }

    /** Whether something newer is waiting, or the end. */
    private boolean isOvertaken() {
        return overtaken || closed;
    }

    private synchronized boolean isAsked() {
        return !questions.isEmpty();
    }

    private void rest() {
        goOver();
        keepMeasured(this::isOvertaken);
        if (unkept == null && media != null) {
            media.release();
        }
    }

    /** Has the next change find all that it can go on from; not before there is time. */
    private void goOver() {
        Plan measured = unkept;
        SongMeasure song = measure;
        if (measured == null || song == null) {
            return;
        }
        if (goesOn) {
            song.noteAlong(measured, new WhileIdle());
        } else {
            // After an opening that knew all levels, which ran nothing, because a window was being drawn then.
            song.goOver(measured, new WhileIdle());
            goesOn = true;
            song.makeRoom(measured, this::isOvertaken);
        }
    }

    private void keepMeasured(BooleanSupplier enough) {
        Plan measured = unkept;
        if (measured != null && measure != null) {
            measure.keepMeasured(measured, enough);
        }
        if (!enough.getAsBoolean()) {
            unkept = null;
        }
    }

    private void measure(Session session) {
        SongMeasure song = open(session);
        Plan plan = PlanCompiler.compile(session);
        BitSet all = StageLevels.wanted(plan);
        Map<Integer, LevelSeries> known = song.known(plan, all);
        boolean knewAll = known.size() == all.cardinality();
        if (!knewAll) {
            publish(session, plan, known, false);
            Progress progress = new Patience();
            song.measure(plan, sourcesOf(plan), progress);
            publish(session, plan, song.known(plan, all), false);
            known = song.measure(plan, all, progress);
        }
        unkept = plan;
        song.standAt(plan);
        boolean scanned = scans.complete(session, song.media());
        publish(session, plan, known, scanned);
        if (!scanned) {
            Map<Integer, LevelSeries> levels = known;
            scans.scan(session, song.media(), new Patience(), () -> publish(session, plan, levels, false));
            publish(session, plan, known, true);
            if (!tidied) {
                tidied = true;
                cache.removeUnused();
            }
        }
        if (!knewAll) {
            goesOn = true;
            song.makeRoom(plan, this::isOvertaken);
        }
    }

    private SongMeasure open(Session session) {
        SongMeasure song = measure;
        if (song != null && opened != null && opened.sources().equals(session.sources())) {
            return song;
        }
        Media before = media;
        Media now = Media.open(session, folder);
        if (song == null) {
            song = SongMeasure.asShown(now, team, cache);
        } else {
            song.use(now);
        }
        if (before != null) {
            now.keepResponses(before);
            before.close();
        }
        media = now;
        measure = song;
        opened = session;
        return song;
    }

    private static BitSet sourcesOf(Plan plan) {
        BitSet sources = new BitSet();
        for (int i = 0; i < plan.signals().size(); i++) {
            sources.set(
                    i,
                    plan.signals().get(i).inputs().isEmpty()
                            && plan.first(plan.signals().get(i).id().channel()) == i);
        }
        return sources;
    }

    private void publish(Session session, Plan plan, Map<Integer, LevelSeries> series, boolean complete) {
        Section within = section;
        Media files = Objects.requireNonNull(media, "what is told of a session was measured with its files open");
        listener.accept(new SessionLevels(
                session,
                stages.of(session, plan, series),
                within == null ? null : new SectionLevels(within, stages.of(session, plan, cut(series, within))),
                series.get(plan.output()),
                StageLevels.pairs(plan, series),
                scans.facts(session, files),
                files.sentences(),
                files.changed(),
                complete ? Captures.of(session, plan, files) : List.of(),
                complete ? Freezes.of(session, files) : List.of(),
                complete));
    }

    /** Series of a section, remembered so that the figures of those that stay need not be computed again. */
    private Map<Integer, LevelSeries> cut(Map<Integer, LevelSeries> series, Section within) {
        if (!within.equals(cutTo)) {
            cutTo = within;
            cutSeries.clear();
        }
        Map<Integer, LevelSeries> out = new HashMap<>();
        series.forEach((i, one) ->
                out.put(i, cutSeries.computeIfAbsent(one, s -> s.during(within.startFrames(), within.endFrames()))));
        return out;
    }

    private void release() {
        if (measure != null) {
            measure.close();
            measure = null;
        }
        if (media != null) {
            media.close();
            media = null;
        }
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

    /** Ends work as soon as a newer session is there. */
    private class UntilOvertaken implements Progress {
        @Override
        public void at(double part) {}

        @Override
        public boolean stopped() {
            return isOvertaken();
        }
    }

    /** Ends work that nobody waits for as soon as somebody waits for something else. */
    private final class WhileIdle extends UntilOvertaken {
        @Override
        public boolean stopped() {
            return super.stopped() || isAsked();
        }
    }

    /** Ends a measurement that a newer session overtook, unless it is young enough to be nearly done. */
    private final class Patience extends UntilOvertaken {
        private final long started = System.nanoTime();

        @Override
        public boolean stopped() {
            return super.stopped() && (closed || System.nanoTime() - started > PATIENCE_NANOS);
        }
    }
}
