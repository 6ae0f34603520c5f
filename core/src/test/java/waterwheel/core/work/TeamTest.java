package waterwheel.core.work;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import java.io.IOException;
import java.util.List;
import java.util.concurrent.atomic.AtomicInteger;
import java.util.stream.IntStream;
import org.junit.jupiter.api.DisplayNameGeneration;
import org.junit.jupiter.api.DisplayNameGenerator;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.ValueSource;

@DisplayNameGeneration(DisplayNameGenerator.ReplaceUnderscores.class)
class TeamTest {
    private static final List<Integer> ITEMS = IntStream.range(0, 1_000).boxed().toList();

    @ParameterizedTest
    @ValueSource(ints = {1, 2, 7})
    void what_is_made_comes_in_the_order_of_the_items(int threads) throws IOException {
        try (Team team = new Team(threads)) {
            for (int count : new int[] {0, 1, 2, 1_000}) {
                List<Integer> items = ITEMS.subList(0, count);
                assertThat(team.map(items, item -> item * item))
                        .isEqualTo(items.stream().map(item -> item * item).toList());
            }
        }
    }

    @ParameterizedTest
    @ValueSource(ints = {1, 2, 7})
    void a_refusal_of_the_disk_is_told_as_it_is_and_the_team_works_on(int threads) throws IOException {
        try (Team team = new Team(threads)) {
            assertThatThrownBy(() -> team.map(ITEMS, item -> {
                        if (item == 500) {
                            throw new IOException("full");
                        }
                        return item;
                    }))
                    .isInstanceOf(IOException.class)
                    .hasMessage("full");
            assertThat(team.map(ITEMS, item -> item)).isEqualTo(ITEMS);
        }
    }

    @ParameterizedTest
    @ValueSource(ints = {2, 7})
    void every_task_is_done_once_also_where_others_fail(int threads) {
        try (Team team = new Team(threads)) {
            AtomicInteger[] done = new AtomicInteger[1_000];
            IntStream.range(0, done.length).forEach(i -> done[i] = new AtomicInteger());
            assertThatThrownBy(() -> team.run(done.length, task -> {
                        done[task].incrementAndGet();
                        if (task % 100 == 0) {
                            throw new IllegalStateException("task");
                        }
                    }))
                    .isInstanceOf(IllegalStateException.class);
            assertThat(done).extracting(AtomicInteger::get).containsOnly(1);
        }
    }
}
