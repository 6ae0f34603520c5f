package waterwheel.desktop.app;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.within;

import java.util.List;
import javafx.css.PseudoClass;
import javafx.geometry.Bounds;
import javafx.scene.Node;
import javafx.scene.control.ContextMenu;
import javafx.scene.control.MenuItem;
import javafx.scene.control.ScrollPane;
import javafx.scene.control.TextField;
import javafx.scene.input.KeyCode;
import javafx.scene.input.MouseButton;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.DisplayNameGeneration;
import org.junit.jupiter.api.DisplayNameGenerator;
import org.junit.jupiter.api.Test;
import waterwheel.core.path.Stage;
import waterwheel.core.session.Bus;
import waterwheel.core.session.Channel;
import waterwheel.core.session.ChannelId;
import waterwheel.core.session.Output;
import waterwheel.core.session.Session;
import waterwheel.core.session.Strip;
import waterwheel.core.session.Tap;
import waterwheel.core.session.Track;
import waterwheel.desktop.frame.Step;

/** What is done with mouse and keys on the map and on lanes: each gesture is one step, and undone by one. */
@DisplayNameGeneration(DisplayNameGenerator.ReplaceUnderscores.class)
class MapAndLaneGesturesTest extends DrivenApplication {
    private static final PseudoClass DIMMED = PseudoClass.getPseudoClass("dimmed");
    private static final ChannelId WHISTLE = new ChannelId("low-whistle");
    private static final ChannelId STRINGS = new ChannelId("strings");
    private static final ChannelId REEDS = new ChannelId("reeds");
    private static final ChannelId CHORUS_1 = new ChannelId("chorus-voice-1");
    private static final ChannelId CHORUS_2 = new ChannelId("chorus-voice-2");

    private Session before;

    @BeforeEach
    void as_it_was() {
        before = model().session();
    }

    private void assertOneStep() {
        assertThat(model().session()).isNotEqualTo(before);
        robot.interact(() -> model().undo());
        assertThat(model().session()).isEqualTo(before);
    }

    private Channel channel(ChannelId id) {
        return model().session().channel(id);
    }

    private void flow() {
        robot.interact(() -> desk().window().show(Step.FLOW));
    }

    private void blend() {
        robot.interact(() -> desk().window().show(Step.BLEND));
    }

    @Test
    void a_card_that_is_dropped_on_a_bus_feeds_it() {
        flow();
        drag(card("Low whistle,"), card("Strings,"));
        assertThat(channel(WHISTLE).strip().output()).isEqualTo(Output.to(STRINGS));
        assertOneStep();
    }

    @Test
    void a_bus_that_is_dropped_on_what_feeds_it_is_refused_with_the_loop_in_words() {
        flow();
        drag(card("Band,"), card("Reeds,"));
        assertThat(model().session()).isEqualTo(before);
        assertThat(texts()).anyMatch(t -> t.contains("Reeds → Band → Reeds") || t.contains("Band → Reeds → Band"));
    }

    @Test
    void the_list_of_buses_that_a_card_can_feed_shows_loops_and_takes_no_such() {
        flow();
        robot.interact(() -> card("Band,").requestFocus());
        robot.push(KeyCode.R);
        List<String> offered = robot.listWindows().stream()
                .filter(ContextMenu.class::isInstance)
                .flatMap(menu -> ((ContextMenu) menu).getItems().stream())
                .filter(MenuItem::isDisable)
                .map(MenuItem::getText)
                .toList();
        assertThat(offered).contains("Feed Reeds (would close a loop)").noneMatch(item -> item.startsWith("Feed Main"));
        robot.push(KeyCode.ESCAPE);
        assertThat(model().session()).isEqualTo(before);
    }

    @Test
    void what_has_nothing_to_do_with_the_selected_bus_is_dimmed() {
        flow();
        robot.interact(() -> model().select(REEDS));
        assertThat(card("Harmonium,").getPseudoClassStates()).doesNotContain(DIMMED);
        assertThat(card("Band,").getPseudoClassStates()).doesNotContain(DIMMED);
        assertThat(card("Fiddle 1,").getPseudoClassStates()).contains(DIMMED);
        robot.interact(() -> model().select(model().session().mainId()));
        assertThat(card("Fiddle 1,").getPseudoClassStates()).doesNotContain(DIMMED);
    }

    @Test
    void the_map_shows_only_tracks_that_are_typed_and_zooms() {
        flow();
        TextField find = shown(TextField.class, f -> "Find a track".equals(f.getAccessibleText()));
        robot.interact(() -> find.setText("chorus"));
        assertThat(seen(".flow-card").stream().map(Node::getAccessibleText))
                .anyMatch(t -> t.startsWith("Chorus voice 4"))
                .noneMatch(t -> t.startsWith("Fiddle"));
        robot.interact(() -> find.setText(""));
        double height = card("Fiddle 1,").getBoundsInLocal().getHeight();
        robot.interact(() -> button("Closer").fire());
        assertThat(card("Fiddle 1,").getBoundsInLocal().getHeight()).isGreaterThan(1.1 * height);
        robot.interact(() -> button("Wider").fire());
        assertThat(card("Fiddle 1,").getBoundsInLocal().getHeight()).isBetween(0.99 * height, 1.01 * height);
    }

    @Test
    void a_track_takes_its_signal_from_the_selected_channel() {
        flow();
        robot.interact(() -> model().select(REEDS));
        choose("More", "New track from the selected channel, before its fader");
        Track made = model().session().tracks().getLast();
        assertThat(made.tap()).contains(new Tap(REEDS, Tap.Point.PRE_FADER));
        assertThat(card(made.name() + ",")).isNotNull();
        assertOneStep();
    }

    @Test
    void a_removed_bus_leaves_its_inputs_to_what_it_fed() {
        flow();
        robot.interact(() -> model().select(REEDS));
        choose("More", "Remove the selected bus; what fed it feeds what it fed");
        assertThat(channel(WHISTLE).strip().output()).isEqualTo(Output.to(new ChannelId("band")));
        assertThat(model().session().find(REEDS)).isEmpty();
        assertOneStep();
    }

    @Test
    void selected_lanes_are_muted_and_soloed_by_one_key() throws Exception {
        blend();
        robot.interact(() -> lane("Chorus voice 1").requestFocus());
        robot.push(KeyCode.SHIFT, KeyCode.DOWN);
        robot.push(KeyCode.M);
        assertThat(channel(CHORUS_1).strip().muted()).isTrue();
        assertThat(channel(CHORUS_2).strip().muted()).isTrue();
        assertOneStep();
        robot.interact(() -> lane("Chorus voice 1").requestFocus());
        robot.push(KeyCode.S);
        awaitLevels();
        // Soloed channels, their buses and returns go on; the others give nothing out.
        assertThat(silent(CHORUS_1)).isFalse();
        assertThat(silent(new ChannelId("voices"))).isFalse();
        assertThat(silent(new ChannelId("hall"))).isFalse();
        assertThat(silent(LEAD)).isTrue();
        assertThat(silent(new ChannelId("band"))).isTrue();
        robot.interact(() -> model().undo());
        assertThat(model().session()).isEqualTo(before);
    }

    private boolean silent(ChannelId id) {
        return model().levels().of(id).orElseThrow().at(Stage.OUTPUT).silent();
    }

    @Test
    void a_VCA_is_put_over_the_selected_lanes_named_and_removed() {
        blend();
        robot.interact(() -> lane("Chorus voice 1").requestFocus());
        robot.push(KeyCode.SHIFT, KeyCode.DOWN);
        robot.interact(() -> button("VCA over").fire());
        assertThat(model().session().vcas().getLast().members()).containsExactly(CHORUS_1, CHORUS_2);
        TextField name = shown(TextField.class, f -> f.getText().equals("VCA 1"));
        assertThat(name.isFocused()).as("ready to be named").isTrue();
        assertInSight(name);
        robot.write("Low chorus");
        robot.push(KeyCode.ENTER);
        assertThat(model().session().vcas().getLast().name()).isEqualTo("Low chorus");
        robot.interact(() -> model().undo());
        assertOneStep();
    }

    @Test
    void a_new_return_is_a_lane_of_its_own() {
        blend();
        robot.interact(() -> button("New return").fire());
        Bus made = (Bus) model().session().channels().stream()
                .filter(c -> c.name().startsWith("Return"))
                .findFirst()
                .orElseThrow();
        assertThat(made.strip().output()).isEqualTo(Output.to(model().session().mainId()));
        assertThat(model().selectedChannel().id()).isEqualTo(made.id());
        assertInSight(lane(made.name()));
        robot.write("Plate");
        robot.push(KeyCode.ENTER);
        assertThat(model().selectedChannel().name())
                .as("what is typed next is its name")
                .isEqualTo("Plate");
        robot.interact(() -> model().undo());
        assertOneStep();
    }

    @Test
    void a_placement_is_typed_from_its_lane_and_undone_from_its_field() {
        blend();
        robot.interact(() -> lane("Stomp board").requestFocus());
        robot.push(KeyCode.P);
        robot.write("mid");
        assertThat(model().selectedChannel().strip().muted()).isFalse();
        robot.push(KeyCode.CONTROL, KeyCode.A);
        robot.write("left 40");
        robot.push(KeyCode.ENTER);
        assertThat(model().selectedChannel().strip().placement().position()).isCloseTo(-0.4, within(1e-9));
        robot.push(KeyCode.CONTROL, KeyCode.Z);
        assertThat(model().selectedChannel().strip().placement().position()).isZero();
    }

    @Test
    void a_bus_is_named_by_its_key_and_Escape_leaves_its_name() {
        blend();
        robot.interact(() -> model().select(model().session().mainId()));
        robot.push(KeyCode.F3);
        robot.write("Sum");
        robot.push(KeyCode.ESCAPE);
        assertThat(model().selectedChannel().name()).isEqualTo("Main");
        robot.push(KeyCode.F3);
        robot.write("Sum");
        robot.push(KeyCode.ENTER);
        assertThat(model().selectedChannel().name()).isEqualTo("Sum");
        assertOneStep();
    }

    /** Whether the whole of it lies within the list that it scrolls in. */
    private static void assertInSight(Node node) {
        Node at = node;
        while (!(at instanceof ScrollPane)) {
            at = at.getParent();
        }
        Bounds list = at.localToScene(at.getLayoutBounds());
        Bounds place = node.localToScene(node.getLayoutBounds());
        assertThat(place.getMinY()).isGreaterThanOrEqualTo(list.getMinY() - 1);
        assertThat(place.getMaxY()).isLessThanOrEqualTo(list.getMaxY() + 1);
    }

    @Test
    void a_fader_that_is_dragged_over_many_places_is_one_step() {
        blend();
        Node fader = robot.from(lane("Lead voice"))
                .lookup((Node n) -> "Fader of Lead voice".equals(n.getAccessibleText())
                        || n.getStyleClass().contains("fader"))
                .queryAll()
                .iterator()
                .next();
        Bounds bounds = fader.localToScreen(fader.getBoundsInLocal());
        robot.moveTo(bounds.getMinX() + 0.75 * bounds.getWidth(), bounds.getCenterY())
                .press(MouseButton.PRIMARY);
        for (int i = 0; i < 20; i++) {
            robot.moveBy(-2, 0);
        }
        robot.release(MouseButton.PRIMARY);
        assertThat(channel(LEAD).strip().standingDb(Strip.FADER)).isLessThan(-1);
        assertOneStep();
    }
}
