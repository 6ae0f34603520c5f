package waterwheel.core.routing;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatExceptionOfType;

import java.nio.file.Path;
import java.util.List;
import java.util.function.UnaryOperator;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.DisplayNameGeneration;
import org.junit.jupiter.api.DisplayNameGenerator;
import org.junit.jupiter.api.Nested;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import waterwheel.core.edit.Edits;
import waterwheel.core.errors.RoutingException;
import waterwheel.core.session.Bus;
import waterwheel.core.session.Output;
import waterwheel.core.session.Send;
import waterwheel.core.session.Session;
import waterwheel.core.session.Strip;
import waterwheel.core.testing.Sessions;
import waterwheel.core.testing.Signals;

@DisplayNameGeneration(DisplayNameGenerator.ReplaceUnderscores.class)
class RoutingTest {
    @TempDir
    Path folder;

    private Session session;

    @BeforeEach
    void two_tracks_in_nested_buses() throws Exception {
        float[] sound = Signals.noise(0.1, 100, 1);
        session = new Sessions(folder)
                .track("fiddle", "inner", sound)
                .track("drum", "outer", sound)
                .bus("outer", "main")
                .bus("inner", "outer")
                .build();
    }

    private Session with(String id, UnaryOperator<Strip> change) {
        return session.withStrip(Sessions.id(id), change);
    }

    @Test
    void every_channel_comes_after_all_that_feeds_it() {
        assertThat(RenderOrder.of(session))
                .isEqualTo(new RenderOrder.Ordered(List.of(
                        Sessions.id("fiddle"),
                        Sessions.id("drum"),
                        Sessions.id("inner"),
                        Sessions.id("outer"),
                        Sessions.MAIN)));
    }

    @Test
    void a_loop_is_refused_with_its_path_in_words() {
        Bus inner = (Bus) session.channel(Sessions.id("inner"));
        assertThatExceptionOfType(RoutingException.class)
                .isThrownBy(() -> Edits.output(session, session.channel(Sessions.id("outer")), Output.to(inner.id())))
                .withMessageContaining("outer → inner → outer")
                .satisfies(e -> assertThat(e.remedy()).isNotBlank());
    }

    @Nested
    class Solo {
        @Test
        void a_soloed_track_is_heard_through_its_buses_and_others_are_not() {
            assertThat(Audibility.sounding(with("fiddle", s -> s.withSoloed(true))))
                    .containsExactlyInAnyOrder(
                            Sessions.id("fiddle"), Sessions.id("inner"), Sessions.id("outer"), Sessions.MAIN);
        }

        @Test
        void a_soloed_bus_sounds_with_all_that_feeds_it() {
            assertThat(Audibility.sounding(with("outer", s -> s.withSoloed(true))))
                    .contains(Sessions.id("fiddle"), Sessions.id("drum"), Sessions.id("inner"));
        }

        @Test
        void a_solo_safe_channel_goes_on_sounding() {
            session = with("drum", s -> s.withSoloSafe(true));
            assertThat(Audibility.sounding(with("fiddle", s -> s.withSoloed(true))))
                    .contains(Sessions.id("drum"));
        }

        @Test
        void solo_safe_alone_silences_nobody() {
            assertThat(Audibility.sounding(with("drum", s -> s.withSoloSafe(true))))
                    .hasSize(5);
        }

        @Test
        void mute_wins_over_solo() {
            assertThat(Audibility.sounding(
                            with("fiddle", s -> s.withSoloed(true).withMuted(true))))
                    .doesNotContain(Sessions.id("fiddle"));
        }
    }

    @Test
    void what_reaches_a_channel_and_what_it_reaches_is_traced(@TempDir Path folder) throws Exception {
        Session session = new Sessions(folder)
                .track("kick", "drums", new float[10])
                .track("voice", "band", new float[10])
                .bus("drums", "band")
                .bus("band", "main")
                .bus("hall", "main")
                .build()
                .withStrip(Sessions.id("voice"), s -> s.withSends(List.of(Send.toBus(Sessions.id("hall"), -6))));
        assertThat(Trace.up(session, Sessions.id("band")))
                .containsExactlyInAnyOrder(
                        Sessions.id("band"), Sessions.id("drums"), Sessions.id("kick"), Sessions.id("voice"));
        assertThat(Trace.down(session, Sessions.id("voice")))
                .containsExactlyInAnyOrder(
                        Sessions.id("voice"), Sessions.id("band"), Sessions.id("hall"), Sessions.MAIN);
    }
}
