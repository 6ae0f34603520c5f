package waterwheel.desktop.app;

import static org.assertj.core.api.Assertions.assertThat;

import java.util.List;
import javafx.scene.input.KeyCode;
import org.junit.jupiter.api.Test;
import waterwheel.core.edit.Edit;
import waterwheel.core.edit.Edits;
import waterwheel.core.session.Track;

/** Many findings of one rule in one line, with one remedy for all. */
class FindingsListTest extends DrivenApplication {
    private List<String> muted() {
        return model().session().tracks().stream()
                .filter(track -> track.strip().muted())
                .map(Track::name)
                .toList();
    }

    private long rows(String start) {
        return texts().filter(text -> text.startsWith(start) && text.contains("is muted"))
                .count();
    }

    @Test
    void findings_of_one_rule_fold_open_and_are_mended_together() throws Exception {
        List<String> before = muted();
        robot.interact(() -> model().edit(Edit.together(
                "Voices muted",
                model().session().tracks().stream()
                        .filter(track -> track.name().startsWith("Chorus voice"))
                        .map(track -> Edits.mute(track, true))
                        .toList())));
        awaitLevels();
        robot.push(KeyCode.CONTROL, KeyCode.F);
        until(() -> texts().anyMatch(text -> text.startsWith("4 × Muted tracks: Chorus voice 1, Chorus voice 2")));
        assertThat(rows("Chorus voice")).as("folded").isZero();
        assertControlsAreNamed();
        robot.interact(() -> button("Each").fire());
        assertThat(rows("Chorus voice")).as("opened").isEqualTo(4);
        robot.interact(() -> button("Fold").fire());
        assertThat(rows("Chorus voice")).isZero();
        robot.interact(() -> button("Apply to all").fire());
        assertThat(muted()).isEqualTo(before);
        robot.push(KeyCode.CONTROL, KeyCode.Z);
        assertThat(muted()).as("taken back in one step").hasSize(before.size() + 4);
        robot.push(KeyCode.CONTROL, KeyCode.F);
    }
}
