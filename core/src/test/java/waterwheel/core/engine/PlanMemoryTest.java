package waterwheel.core.engine;

import static org.assertj.core.api.Assertions.assertThat;

import java.util.BitSet;
import java.util.List;
import org.junit.jupiter.api.DisplayNameGeneration;
import org.junit.jupiter.api.DisplayNameGenerator;
import org.junit.jupiter.api.Test;
import waterwheel.core.engine.SignalId.Point;
import waterwheel.core.session.ChannelId;

/** How far back a plan's delays remember: along the longest way through them, not over all of them. */
@DisplayNameGeneration(DisplayNameGenerator.ReplaceUnderscores.class)
class PlanMemoryTest {
    private static final int SOURCE = 0;
    private static final int SHORT = 1;
    private static final int CHAINED = 2;
    private static final int BESIDE = 3;
    private static final int SUM = 4;

    /** A source through 300 and then 500 frames, and beside that through 600, into a sum. */
    private static Plan plan() {
        return new Plan(
                48_000,
                96_000,
                List.of(
                        new Signal.Source(id("source"), 1, List.of()),
                        new Signal.Delayed(id("short"), 1, SOURCE, 300),
                        new Signal.Delayed(id("chained"), 1, SHORT, 500),
                        new Signal.Delayed(id("beside"), 1, SOURCE, 600),
                        new Signal.Sum(
                                id("sum"),
                                1,
                                List.of(Signal.Edge.straight(CHAINED, 1), Signal.Edge.straight(BESIDE, 1)))));
    }

    private static SignalId id(String channel) {
        return new SignalId(new ChannelId(channel), Point.INPUT);
    }

    private static BitSet reaching(int signal) {
        BitSet only = new BitSet();
        only.set(signal);
        return plan().reaching(only);
    }

    @Test
    void delays_add_up_along_a_way_and_not_beside_each_other() {
        assertThat(plan().memoryFrames(reaching(SOURCE))).isZero();
        assertThat(plan().memoryFrames(reaching(CHAINED))).isEqualTo(300 + 500);
        assertThat(plan().memoryFrames(reaching(BESIDE))).isEqualTo(600);
        assertThat(plan().memoryFrames(reaching(SUM))).isEqualTo(300 + 500);
    }

    @Test
    void delays_that_are_not_run_do_not_count() {
        BitSet some = reaching(SUM);
        some.clear(SHORT);
        some.clear(CHAINED);
        assertThat(plan().memoryFrames(some)).isEqualTo(600);
    }
}
