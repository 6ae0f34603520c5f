package waterwheel.core.session;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatIllegalArgumentException;

import java.nio.file.Path;
import java.util.List;
import org.junit.jupiter.api.DisplayNameGeneration;
import org.junit.jupiter.api.DisplayNameGenerator;
import org.junit.jupiter.api.Test;
import waterwheel.core.testing.Sessions;

@DisplayNameGeneration(DisplayNameGenerator.ReplaceUnderscores.class)
class SessionTest {
    private final Session session = new Sessions(Path.of("unused"))
            .bus("inner", "outer")
            .bus("outer", "main")
            .build();

    @Test
    void two_channels_of_one_id_are_a_mistake() {
        Channel twin = session.channel(Sessions.id("inner"));
        assertThatIllegalArgumentException()
                .isThrownBy(() -> session.withChannels(List.of(twin, twin, session.main())))
                .withMessageContaining("inner");
    }

    @Test
    void an_output_to_nobody_is_a_mistake() {
        assertThatIllegalArgumentException()
                .isThrownBy(() -> session.withStrip(
                        Sessions.id("inner"), strip -> strip.withOutput(Output.to(Sessions.id("gone")))))
                .withMessageContaining("gone");
    }

    @Test
    void a_change_that_changes_nothing_gives_the_same_session() {
        assertThat(session.withStrip(Sessions.id("inner"), strip -> strip.withTrimDb(0)))
                .isSameAs(session);
    }

    @Test
    void minus_zero_and_zero_are_the_same_trim() {
        assertThat(session.withStrip(Sessions.id("inner"), strip -> strip.withTrimDb(-0.0)))
                .isEqualTo(session);
    }

    @Test
    void trims_and_faders_outside_their_range_are_a_mistake() {
        Strip strip = session.main().strip();
        assertThatIllegalArgumentException().isThrownBy(() -> strip.withTrimDb(48.1));
        assertThatIllegalArgumentException().isThrownBy(() -> strip.withFaderDb(12.1));
        assertThatIllegalArgumentException().isThrownBy(() -> strip.withFaderDb(Double.NaN));
    }
}
