package waterwheel.core.engine;

import java.util.ArrayList;
import java.util.Arrays;
import java.util.BitSet;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Objects;
import java.util.stream.IntStream;
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
     */
    private record Task(BitSet hears, int writes, SignalTasks.Work work) {}

    /** Adds a task that computes a signal, or a plane of it. */
    void computes(int index, BitSet inputs, SignalTasks.Work work) {
        tasks.add(new Task(inputs, index, work));
    }

    /** Adds a task that only listens to a signal. */
    void hears(int index, SignalTasks.Work work) {
        BitSet only = new BitSet();
        only.set(index);
        tasks.add(new Task(only, NOTHING, work));
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
        BlockTask[][] work = new BlockTask[slots][];
        for (int s = 0; s < slots; s++) {
            int slot = s;
            work[s] = tasks.stream().map(task -> task.work().in(slot)).toArray(BlockTask[]::new);
        }
        Map<Integer, List<Integer>> writers = new HashMap<>();
        for (int i = 0; i < tasks.size(); i++) {
            writers.computeIfAbsent(tasks.get(i).writes(), signal -> new ArrayList<>())
                    .add(i);
        }
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
