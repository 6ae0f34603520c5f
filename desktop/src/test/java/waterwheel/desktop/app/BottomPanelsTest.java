package waterwheel.desktop.app;

import static org.assertj.core.api.Assertions.assertThat;

import java.util.List;
import java.util.Map;
import java.util.Objects;
import javafx.geometry.Bounds;
import javafx.scene.Node;
import javafx.scene.control.Button;
import javafx.scene.control.ChoiceBox;
import javafx.scene.control.Label;
import javafx.scene.control.ScrollPane;
import javafx.scene.input.KeyCode;
import org.junit.jupiter.api.Test;
import org.testfx.util.WaitForAsyncUtils;
import waterwheel.core.edit.Edit;
import waterwheel.core.inserts.SlotId;
import waterwheel.core.session.PanLaw;
import waterwheel.desktop.controls.ChannelRow;
import waterwheel.desktop.controls.RowList;

/** What is opened under the view. */
class BottomPanelsTest extends DrivenApplication {
    private static final Map<String, KeyCode[]> KEYS = Map.of(
            "clips", new KeyCode[] {KeyCode.CONTROL, KeyCode.E},
            "controllers", new KeyCode[] {KeyCode.CONTROL, KeyCode.K},
            "load", new KeyCode[] {KeyCode.CONTROL, KeyCode.L},
            "prints", new KeyCode[] {KeyCode.CONTROL, KeyCode.P},
            "meters", new KeyCode[] {KeyCode.CONTROL, KeyCode.M});

    /** Escape, pressed on the button that puts the only open panel away. */
    private void escape(String name) {
        assertThat(panels()).as(name).hasSize(1);
        Node close = panels().getFirst().lookupAll(".button").stream()
                .filter(node -> node instanceof Button button
                        && List.of("Close", "Leave it").contains(button.getText()))
                .findFirst()
                .orElseThrow();
        robot.interact(close::requestFocus);
        robot.push(KeyCode.ESCAPE);
        assertThat(panels()).as(name).isEmpty();
    }

    @Test
    void a_panel_that_a_key_opens_is_put_away_by_escape_and_by_its_key() {
        robot.interact(() -> model().select(LEAD));
        KEYS.forEach((name, keys) -> {
            robot.push(keys);
            escape(name);
            robot.push(keys);
            assertThat(panels()).as(name).hasSize(1);
            robot.push(keys);
            assertThat(panels()).as(name).isEmpty();
        });
    }

    @Test
    void settings_go_with_escape_with_another_channel_and_with_their_insert() {
        robot.interact(() -> model().select(LEAD));
        SlotId slot = model().selectedChannel().strip().inserts().getFirst().id();
        openInsert(slot);
        escape("settings");
        openInsert(slot);
        robot.interact(() -> model().select(model().session().mainId()));
        assertThat(panels()).as("of a channel that is no longer shown").isEmpty();
        robot.interact(() -> model().select(LEAD));
        openInsert(slot);
        robot.interact(() -> model().edit(new Edit(
                "Nothing inserted", session -> session.withStrip(LEAD, strip -> strip.withInserts(List.of())))));
        assertThat(panels()).as("of an insert that is gone").isEmpty();
        robot.interact(() -> model().undo());
        assertThat(panels()).isEmpty();
    }

    @Test
    void meters_read_something_of_another_channel_before_anything_plays() {
        robot.interact(() -> model().select(LEAD));
        robot.push(KEYS.get("meters"));
        robot.interact(() -> {
            model().select(model().session().mainId());
            // Before the next picture, which at rest may not come.
            assertThat(panels().getFirst().lookupAll(".meter-row .figure"))
                    .hasSize(2)
                    .allSatisfy(figure -> assertThat(((Label) figure).getText()).isNotBlank());
        });
        robot.push(KEYS.get("meters"));
    }

    private void openInsert(SlotId slot) {
        robot.interact(() -> desk().window().inserts().orElseThrow().open(slot));
        assertThat(panels()).hasSize(1);
    }

    @Test
    void the_chosen_row_stays_in_sight_when_a_panel_takes_room_from_the_list() {
        robot.push(KeyCode.CONTROL, KeyCode.DIGIT5);
        robot.interact(() -> model().select(LEAD));
        ScrollPane scroll = robot.lookup(node ->
                        node instanceof ScrollPane pane && visible(pane) && pane.getContent() instanceof RowList<?, ?>)
                .query();
        ChannelRow lane = robot.lookup(node -> node instanceof ChannelRow one
                        && visible(one)
                        && one.channelId().equals(LEAD))
                .query();
        // It stands at the lower edge of what is seen.
        Bounds row = scroll.getContent().sceneToLocal(lane.localToScene(lane.getLayoutBounds()));
        double hidden = scroll.getContent().getLayoutBounds().getHeight()
                - scroll.getViewportBounds().getHeight();
        assertThat(hidden).isPositive();
        double top = row.getMaxY() - scroll.getViewportBounds().getHeight();
        robot.interact(() -> scroll.setVvalue(Math.max(0, top / hidden)));
        assertThat(seen(scroll, lane)).isTrue();
        double before = scroll.getViewportBounds().getHeight();
        robot.push(KEYS.get("clips"));
        WaitForAsyncUtils.waitForFxEvents();
        assertThat(scroll.getViewportBounds().getHeight()).isLessThan(before);
        assertThat(seen(scroll, lane)).isTrue();
        robot.push(KeyCode.ESCAPE);
    }

    private static boolean seen(ScrollPane scroll, Node row) {
        Bounds port = scroll.localToScene(scroll.getLayoutBounds());
        Bounds place = row.localToScene(row.getLayoutBounds());
        return place.getMinY() >= port.getMinY() - 1 && place.getMaxY() <= port.getMaxY() + 1;
    }

    @Test
    void a_pan_law_that_is_looked_at_is_left_by_escape_and_by_becoming_the_sessions_own() {
        ChoiceBox<?> law = shown(
                ChoiceBox.class, c -> Objects.toString(c.getAccessibleText()).startsWith("Pan law"));
        robot.interact(() -> law.getSelectionModel().select(law.getItems().indexOf(PanLaw.MINUS_6)));
        escape("pan law");
        assertThat(model().session().panLaw()).isEqualTo(PanLaw.MINUS_3);
        robot.interact(() -> law.getSelectionModel().select(law.getItems().indexOf(PanLaw.MINUS_6)));
        robot.interact(() -> model().edit(new Edit("Pan law", session -> session.withPanLaw(PanLaw.MINUS_6))));
        assertThat(panels()).isEmpty();
        robot.interact(() -> model().undo());
        assertThat(panels()).isEmpty();
    }
}
