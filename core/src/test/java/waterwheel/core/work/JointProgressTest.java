package waterwheel.core.work;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatExceptionOfType;

import java.util.ArrayList;
import java.util.List;
import java.util.concurrent.CancellationException;
import org.junit.jupiter.api.DisplayNameGeneration;
import org.junit.jupiter.api.DisplayNameGenerator;
import org.junit.jupiter.api.Test;

@DisplayNameGeneration(DisplayNameGenerator.ReplaceUnderscores.class)
class JointProgressTest {
    private final List<Double> told = new ArrayList<>();
    private boolean stop;

    private final Progress whole = new Progress() {
        @Override
        public void at(double part) {
            told.add(part);
        }

        @Override
        public boolean stopped() {
            return stop;
        }
    };

    @Test
    void the_whole_is_the_mean_of_the_parts() {
        JointProgress joint = new JointProgress(whole, 4);
        joint.part(0).at(1);
        joint.part(3).at(0.5);
        joint.part(3).at(1);
        assertThat(told).containsExactly(0.25, 0.375, 0.5);
    }

    @Test
    void parts_on_several_threads_never_let_the_whole_go_back_and_end_at_one() {
        JointProgress joint = new JointProgress(whole, 8);
        try (Team team = new Team(4)) {
            team.run(8, i -> {
                for (int step = 1; step <= 100; step++) {
                    joint.part(i).at(step / 100.0);
                }
            });
        }
        assertThat(told).hasSize(800).isSorted();
        assertThat(told.getLast()).isEqualTo(1);
    }

    @Test
    void every_part_stops_when_the_whole_does() {
        Progress part = new JointProgress(whole, 2).part(1);
        part.check();
        stop = true;
        assertThatExceptionOfType(CancellationException.class).isThrownBy(part::check);
    }
}
