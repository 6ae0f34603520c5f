package waterwheel.desktop.model;

import static org.assertj.core.api.Assertions.assertThat;

import java.util.ArrayList;
import java.util.List;
import java.util.concurrent.CancellationException;
import java.util.concurrent.CompletableFuture;
import java.util.function.BiFunction;
import org.junit.jupiter.api.Test;
import waterwheel.core.levels.SongMeasure;
import waterwheel.core.metering.Figures;
import waterwheel.core.session.Bus;
import waterwheel.core.session.ChannelId;
import waterwheel.core.session.Output;
import waterwheel.core.session.PanLaw;
import waterwheel.core.session.Session;
import waterwheel.core.session.Strip;
import waterwheel.core.work.Progress;

/** What becomes of a question that is not answered. */
class QuestionsTest {
    private static final Bus MAIN = new Bus(new ChannelId("main"), "Main", Strip.unity(new Output.Nowhere()));
    private static final Session SESSION =
            new Session("Asked", 48_000, PanLaw.MINUS_3, -18, List.of(), List.of(MAIN), MAIN.id(), List.of());

    private final List<String> told = new ArrayList<>();

    private CompletableFuture<Figures> asked(Throwable failure) {
        Questions.Asking failing = new Questions.Asking() {
            @Override
            public <T> CompletableFuture<T> ask(Session about, BiFunction<SongMeasure, Progress, T> question) {
                return CompletableFuture.failedFuture(failure);
            }
        };
        return new Questions(() -> SESSION, failing, told::add).mix(SESSION);
    }

    @Test
    void one_that_fails_is_told_with_its_reason() {
        assertThat(asked(new IllegalStateException("the disk is full"))).isCompletedExceptionally();
        assertThat(told).containsExactly("The mix could not be measured: the disk is full");
    }

    @Test
    void one_that_a_change_has_overtaken_is_not_told_of() {
        assertThat(asked(new CancellationException())).isCompletedExceptionally();
        assertThat(told).isEmpty();
    }
}
