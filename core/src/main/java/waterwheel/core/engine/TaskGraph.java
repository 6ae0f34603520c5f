package waterwheel.core.engine;

import java.util.ArrayList;
import java.util.Arrays;
import java.util.BitSet;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Objects;
import java.util.stream.Collectors;
import java.util.stream.IntStream;
import java.util.stream.Stream;
import org.jspecify.annotations.Nullable;
import waterwheel.core.work.Team;

/** The tasks of a run with the signals that they read and write; of these follows which task waits for which. */
final class TaskGraph {
    private static final int NOTHING = -1;

    private final List<Task> tasks = new ArrayList<>();

    /**
     * A task on its way into the dataflow.
     *
     * @param hears the signals that it reads
     * @param writes the signal that it computes, or {@link #NOTHING}
     * @param quick whether it only listens, and takes no longer than handing the samples to another thread
     */
    private record Task(BitSet hears, int writes, boolean quick, SignalTasks.Work work) {
        /** The signal that one listens to. */
        int heard() {
            return hears.nextSetBit(0);
        }

        /** This task, and after it those that listen. */
        Task and(List<Task> listeners) {
            List<SignalTasks.Work> all = Stream.concat(Stream.of(this), listeners.stream())
                    .map(Task::work)
                    .toList();
            return new Task(
                    hears,
                    writes,
                    quick,
                    slot -> BlockTask.all(all.stream().map(one -> one.in(slot)).toArray(BlockTask[]::new)));
        }
    }

    /** Adds a task that computes a signal, or some of its planes. */
    void computes(int index, BitSet inputs, SignalTasks.Work work) {
        tasks.add(new Task(inputs, index, false, work));
    }

    /**
     * Adds a task that only listens to a signal.
     *
     * @param quick whether it takes no longer than handing the samples to another thread
     */
    void hears(int index, boolean quick, SignalTasks.Work work) {
        BitSet only = new BitSet();
        only.set(index);
        tasks.add(new Task(only, NOTHING, quick, work));
    }

    /** A clock of what each signal takes, and of what the tasks take that only listen, which are the last of its places. */
    TaskClock clock(int signals) {
        return new TaskClock(
                tasks.stream()
                        .mapToInt(task -> task.writes() == NOTHING ? signals : task.writes())
                        .toArray(),
                signals + 1);
    }

    /**
     * Makes the dataflow.
     *
     * @param places which signals share their buffers
     */
    Dataflow flow(int slots, InPlace places, Team team, int blockFrames, @Nullable TaskClock clock) {
        if (slots > 1) {
            joinListeners();
        }
        BlockTask[][] work = new BlockTask[slots][];
        for (int s = 0; s < slots; s++) {
            int slot = s;
            work[s] = tasks.stream().map(task -> task.work().in(slot)).toArray(BlockTask[]::new);
        }
        Map<Integer, List<Integer>> writers = writers();
        int[][] hears = tasks.stream()
                .map(task -> task.hears().stream()
                        .flatMap(signal ->
                                writers.getOrDefault(signal, List.of()).stream().mapToInt(i -> i))
                        .toArray())
                .toArray(int[][]::new);
        int[][] heardBy = Dataflow.turned(hears);
        int[][] clearedBy = tasks.stream()
                .map(task -> clearedBy(task.writes(), places, writers, heardBy))
                .toArray(int[][]::new);
        return new Dataflow(work, hears, clearedBy, team, blockFrames, clock);
    }

    /** By signal the tasks that compute it, by their places. */
    private Map<Integer, List<Integer>> writers() {
        Map<Integer, List<Integer>> writers = new HashMap<>();
        for (int i = 0; i < tasks.size(); i++) {
            writers.computeIfAbsent(tasks.get(i).writes(), signal -> new ArrayList<>())
                    .add(i);
        }
        return writers;
    }

    /**
     * Has quick listeners done at once by the task that computes their signal, while the samples lie in the processor's
     * cache: as tasks of their own they would cost more in looking for them than in work (a seventh of a change). A signal
     * that several tasks compute is whole only when all have.
     */
    private void joinListeners() {
        Map<Integer, List<Integer>> writers = writers();
        Map<Integer, List<Task>> listeners = tasks.stream()
                .filter(task -> task.quick()
                        && writers.getOrDefault(task.heard(), List.of()).size() == 1)
                .collect(Collectors.groupingBy(Task::heard));
        tasks.removeIf(task -> task.quick() && listeners.containsKey(task.heard()));
        tasks.replaceAll(task -> task.and(listeners.getOrDefault(task.writes(), List.of())));
    }

    /** The tasks that must have done with a signal's buffers before they are written to again. */
    private static int[] clearedBy(int signal, InPlace places, Map<Integer, List<Integer>> writers, int[][] heardBy) {
        if (signal == NOTHING || places.is(signal)) {
            // It writes nowhere, or where it waits already for who writes before it.
            return new int[0];
        }
        int last = places.last(signal);
        List<Integer> ends = Objects.requireNonNull(writers.get(last));
        // Who hears a signal hears all tasks that compute a part of it.
        int[] hearers = heardBy[ends.getFirst()];
        return last == signal
                ? hearers
                : IntStream.concat(ends.stream().mapToInt(i -> i), Arrays.stream(hearers))
                        .toArray();
    }
}
