package waterwheel.core.engine;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatExceptionOfType;
import static org.assertj.core.api.Assertions.assertThatIllegalStateException;

import java.util.ArrayList;
import java.util.Arrays;
import java.util.List;
import java.util.Random;
import java.util.concurrent.CancellationException;
import java.util.concurrent.atomic.AtomicIntegerArray;
import java.util.stream.IntStream;
import net.jqwik.api.ForAll;
import net.jqwik.api.Property;
import net.jqwik.api.constraints.IntRange;
import org.junit.jupiter.api.DisplayNameGeneration;
import org.junit.jupiter.api.DisplayNameGenerator;
import org.junit.jupiter.api.Test;
import waterwheel.core.work.Progress;
import waterwheel.core.work.Team;

/** Whatever graph of tasks: every task sees exactly the block that it should, whoever works. */
@DisplayNameGeneration(DisplayNameGenerator.ReplaceUnderscores.class)
class DataflowTest {
    private static final int BLOCK = 10;

    @Property(tries = 60)
    void what_is_computed_does_not_depend_on_threads_or_buffers(
            @ForAll long seed,
            @ForAll @IntRange(min = 1, max = 25) int tasks,
            @ForAll @IntRange(min = 2, max = 4) int threads,
            @ForAll @IntRange(min = 1, max = 7) int slots,
            @ForAll @IntRange(min = 0, max = 605) int frames) {
        int[][] hears = graph(new Random(seed), tasks);
        Sums alone = new Sums(hears, 1);
        Sums shared = new Sums(hears, slots);
        new Dataflow(alone.work(), hears, Team.alone(), BLOCK).run(100, 100 + frames, Progress.NONE);
        try (Team team = new Team(threads)) {
            new Dataflow(shared.work(), hears, team, BLOCK).run(100, 100 + frames, Progress.NONE);
        }
        assertThat(shared.heard).isEqualTo(alone.heard);
        assertThat(shared.frames).containsOnly(frames);
    }

    /** Each task hears up to three of those before it. */
    private static int[][] graph(Random random, int tasks) {
        return IntStream.range(0, tasks)
                .mapToObj(task -> random.ints(Math.min(task, random.nextInt(4)), 0, Math.max(1, task))
                        .distinct()
                        .toArray())
                .toArray(int[][]::new);
    }

    /** Tasks that remember all that they heard, in order, and make their block of it. */
    private static final class Sums {
        private final int[][] hears;
        private final long[][] buffers;
        private final long[] heard;
        private final long[] frames;

        Sums(int[][] hears, int slots) {
            this.hears = hears;
            buffers = new long[slots][hears.length];
            heard = new long[hears.length];
            frames = new long[hears.length];
        }

        BlockTask[][] work() {
            return Arrays.stream(buffers)
                    .map(buffer -> IntStream.range(0, hears.length)
                            .mapToObj(task -> work(task, buffer))
                            .toArray(BlockTask[]::new))
                    .toArray(BlockTask[][]::new);
        }

        private BlockTask work(int task, long[] buffer) {
            return (first, count) -> {
                long sum = first * 1_000_003 + count;
                for (int one : hears[task]) {
                    sum = sum * 31 + buffer[one];
                }
                heard[task] = heard[task] * 1_000_033 + sum;
                frames[task] += count;
                buffer[task] = heard[task];
            };
        }
    }

    @Test
    void a_slow_listener_is_waited_for_before_its_buffer_is_written_again() {
        long[] buffer = new long[2];
        List<Long> seen = new ArrayList<>();
        BlockTask[][] work = IntStream.range(0, 2)
                .mapToObj(slot -> new BlockTask[] {
                    (first, count) -> buffer[slot] = first,
                    (first, count) -> {
                        pause();
                        seen.add(buffer[slot]);
                    }
                })
                .toArray(BlockTask[][]::new);
        try (Team team = new Team(2)) {
            new Dataflow(work, new int[][] {{}, {0}}, team, 1).run(0, 50, Progress.NONE);
        }
        assertThat(seen)
                .containsExactlyElementsOf(
                        IntStream.range(0, 50).mapToObj(i -> (long) i).toList());
    }

    private static void pause() {
        try {
            Thread.sleep(1);
        } catch (InterruptedException e) {
            Thread.currentThread().interrupt();
        }
    }

    @Test
    void a_progress_that_says_stop_ends_all_threads() {
        AtomicIntegerArray blocks = new AtomicIntegerArray(3);
        BlockTask[][] work = new BlockTask[4][];
        Arrays.setAll(work, slot -> IntStream.range(0, 3)
                .mapToObj(task -> (BlockTask) (first, count) -> blocks.incrementAndGet(task))
                .toArray(BlockTask[]::new));
        Progress untilTen = new Progress() {
            private volatile boolean ten;

            @Override
            public void at(double part) {
                ten = part >= 0.1;
            }

            @Override
            public boolean stopped() {
                return ten;
            }
        };
        try (Team team = new Team(2)) {
            Dataflow flow = new Dataflow(work, new int[][] {{}, {0}, {1}}, team, 1);
            assertThatExceptionOfType(CancellationException.class).isThrownBy(() -> flow.run(0, 100_000, untilTen));
            assertThat(blocks.get(2)).isBetween(10_000, 99_999);
            int ended = blocks.get(0);
            pause();
            assertThat(blocks.get(0)).isEqualTo(ended);
        }
    }

    @Test
    void what_a_task_throws_ends_the_others_too() {
        BlockTask[][] work = {
            {
                (first, count) -> {
                    if (first == 40) {
                        throw new IllegalStateException("fortieth");
                    }
                },
                (first, count) -> {}
            }
        };
        try (Team team = new Team(2)) {
            Dataflow flow = new Dataflow(work, new int[][] {{}, {0}}, team, 1);
            assertThatIllegalStateException()
                    .isThrownBy(() -> flow.run(0, 100, Progress.NONE))
                    .withMessage("fortieth");
        }
    }
}
