package waterwheel.core.edit;

import static org.assertj.core.api.Assertions.assertThat;

import java.nio.file.Path;
import org.junit.jupiter.api.DisplayNameGeneration;
import org.junit.jupiter.api.DisplayNameGenerator;
import org.junit.jupiter.api.Test;
import waterwheel.core.session.Session;
import waterwheel.core.testing.Sessions;

@DisplayNameGeneration(DisplayNameGenerator.ReplaceUnderscores.class)
class HistoryTest {
    private final Session session = new Sessions(Path.of("unused")).build();

    /** A session that is edited as the window does it. */
    private record Edited(History<Session> history) {
        Edited with(Edit edit) {
            return with(edit, "");
        }

        Edited with(Edit edit, String gesture) {
            return new Edited(history.with(edit.name(), edit.apply(history.present()), gesture));
        }
    }

    private Edited fresh() {
        return new Edited(History.of(session));
    }

    private Edit trim(double db) {
        return Edits.trim(session.main(), db);
    }

    @Test
    void undo_and_redo_give_back_the_very_sessions() {
        History<Session> edited = fresh().with(trim(-3)).with(trim(-6)).history();
        History<Session> back = edited.undone().undone();
        assertThat(back.present()).isEqualTo(session);
        assertThat(back.redone().redone().present()).isEqualTo(edited.present());
        assertThat(back.redoName()).hasValue("Trim of Main");
    }

    @Test
    void a_drag_is_one_step() {
        History<Session> dragged = fresh().with(trim(-1), "drag 1")
                .with(trim(-2), "drag 1")
                .with(trim(-3), "drag 1")
                .history();
        assertThat(dragged.present().main().strip().trimDb()).isEqualTo(-3);
        assertThat(dragged.undone().present()).isEqualTo(session);
    }

    @Test
    void the_next_drag_is_another_step() {
        History<Session> dragged =
                fresh().with(trim(-1), "drag 1").with(trim(-2), "drag 2").history();
        assertThat(dragged.undone().present().main().strip().trimDb()).isEqualTo(-1);
    }

    @Test
    void an_edit_after_an_undo_forgets_what_could_be_redone() {
        History<Session> undone = fresh().with(trim(-1)).history().undone();
        History<Session> edited = new Edited(undone).with(trim(-5)).history();
        assertThat(edited.redoName()).isEmpty();
        assertThat(edited.redone()).isSameAs(edited);
    }

    @Test
    void an_edit_that_changes_nothing_is_no_step() {
        History<Session> unchanged = fresh().with(trim(0)).history();
        assertThat(unchanged.undoName()).isEmpty();
    }

    @Test
    void values_beyond_a_control_stop_at_its_end() {
        assertThat(trim(100).apply(session).main().strip().trimDb()).isEqualTo(48);
        assertThat(Edits.fader(session.main(), 20).apply(session).main().strip().faderDb())
                .isEqualTo(12);
    }
}
