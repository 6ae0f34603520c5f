package waterwheel.desktop.flow;

import java.util.List;
import java.util.function.Consumer;
import java.util.function.Predicate;
import javafx.geometry.Pos;
import javafx.scene.Node;
import javafx.scene.control.CheckBox;
import javafx.scene.control.Label;
import javafx.scene.layout.FlowPane;
import javafx.scene.layout.HBox;
import javafx.scene.layout.Priority;
import javafx.scene.layout.Region;
import waterwheel.core.intake.BusPlan;
import waterwheel.desktop.controls.Hint;
import waterwheel.desktop.controls.NameField;

/** One proposed bus with the tracks that are to feed it; or the tracks that stay on the main bus. */
final class BusPlanRow extends HBox {
    private static final double INDENT = 22;
    private static final double NAME = 190;
    /** What the words take that say that a bus is there already. */
    private static final double THERE = 40;
    /** What check box, name, words and indents take of a row's width. */
    private static final double BEFORE_TRACKS = NAME + THERE + 38 + 2 * INDENT;

    /** How wide the tracks are at first thought, in pixels; they take what room there is. */
    private static final double WRAP = 520;

    private final Node heading;
    private final List<PlannedTrack> tracks;

    /**
     * Makes the row of a bus.
     *
     * @param depth how deep the bus lies in others
     * @param isThere whether the session has a bus of a name already
     */
    BusPlanRow(
            BusPlan.Group group,
            int depth,
            List<PlannedTrack> tracks,
            Predicate<String> isThere,
            Consumer<Boolean> wanted,
            Consumer<String> named) {
        this.tracks = tracks;
        CheckBox made = new CheckBox();
        made.setSelected(group.made());
        made.setAccessibleText("Make the bus " + group.name());
        Hint.on(made, "Whether this bus is made; where not, its tracks feed what it would feed");
        made.setOnAction(event -> wanted.accept(made.isSelected()));
        made.setMinWidth(Region.USE_PREF_SIZE);
        Label there = new Label("exists");
        there.getStyleClass().add("muted");
        there.setMinWidth(Region.USE_PREF_SIZE);
        Hint.on(there, "The session has this bus: the tracks will feed it, and no other is made");
        there.setVisible(isThere.test(group.name()));
        NameField name = new NameField("Name of the bus", NAME - INDENT * depth, typed -> {
            named.accept(typed);
            there.setVisible(isThere.test(typed));
        });
        name.setText(group.name());
        name.disableProperty().bind(made.selectedProperty().not());
        heading = name;
        fill(depth, new HBox(8, made, name, there));
    }

    BusPlanRow(String name, List<PlannedTrack> tracks) {
        this.tracks = tracks;
        Label label = new Label(name);
        label.getStyleClass().add("muted");
        heading = label;
        fill(0, new HBox(label));
    }

    private void fill(int depth, HBox before) {
        getStyleClass().add("bus-plan-row");
        Region space = new Region();
        space.setMinWidth(INDENT * depth);
        before.setAlignment(Pos.CENTER_LEFT);
        before.setMinWidth(BEFORE_TRACKS - INDENT * depth);
        FlowPane pane = new FlowPane(4, 4);
        pane.setAlignment(Pos.CENTER_LEFT);
        pane.setPrefWrapLength(WRAP);
        pane.getChildren().setAll(tracks);
        HBox.setHgrow(pane, Priority.ALWAYS);
        setAlignment(Pos.CENTER_LEFT);
        getChildren().addAll(space, before, pane);
    }

    /** Puts the keyboard on one of its tracks. */
    void focus(String track) {
        tracks.stream().filter(one -> one.getText().equals(track)).findFirst().ifPresent(PlannedTrack::requestFocus);
    }

    /** Lets the bus's name be typed. */
    void type() {
        heading.requestFocus();
    }
}
