package waterwheel.desktop.order;

import java.util.ArrayList;
import java.util.List;
import java.util.function.Function;
import javafx.geometry.Pos;
import javafx.scene.control.CheckBox;
import javafx.scene.control.ChoiceBox;
import javafx.scene.layout.HBox;
import javafx.scene.layout.Priority;
import javafx.scene.layout.Region;
import waterwheel.core.order.Target;
import waterwheel.core.songs.Equal;
import waterwheel.core.songs.OrderLevels;
import waterwheel.desktop.controls.Hint;
import waterwheel.desktop.controls.Labelled;
import waterwheel.desktop.controls.SmallButton;
import waterwheel.desktop.controls.SmallChoice;
import waterwheel.desktop.controls.ValueField;
import waterwheel.desktop.controls.Words;

/** What the songs are to have, which section is looked at, and the proposals that bring them there. */
final class TargetBar extends HBox {
    private static final String WHOLE = "whole songs";
    private static final double FIELD_WIDTH = 88;
    private static final double GOAL_WIDTH = 96;

    private final OrderModel model;
    private final ChoiceBox<Target.Goal> goal;
    private final ValueField lufs;
    private final ValueField tolerance;
    private final ValueField guard;
    private final ChoiceBox<String> section = new ChoiceBox<>();
    private final SmallButton accept = new SmallButton("Take all", "Take every proposed gain (Ctrl+Enter)");
    private final SmallButton acceptOne = new SmallButton(
            "Take selected",
            "Take what is proposed for the selected part, or for the whole song where its sum is selected (A)");
    private final SmallButton drop = new SmallButton("Drop", "Put the proposals away");
    /** While controls show what is, they change nothing. */
    private boolean showing;

    TargetBar(OrderModel model) {
        super(8);
        this.model = model;
        getStyleClass().add("settings");
        setAlignment(Pos.CENTER_LEFT);
        goal = new SmallChoice<>(
                List.of(Target.Goal.values()),
                Target.Goal::text,
                "What is to be equally loud",
                "Each part: every part of every song has the target. The sum: the sum of a song's parts has it, and its"
                        + " balance stays");
        goal.setPrefWidth(GOAL_WIDTH);
        goal.setOnAction(event -> aim("Goal", target -> target.withGoal(goal.getValue())));
        lufs = field("Target", "LUFS", 0.5, value -> target().withLufs(Math.clamp(value, Target.LEAST_LUFS, 0)));
        tolerance = field("Tolerance", "LU", 0.1, value -> target().withToleranceLu(
                        Math.clamp(value, Target.LEAST_TOLERANCE_LU, Target.MOST_TOLERANCE_LU)));
        guard = field("Guard: true peak at most", "dBTP", 0.1, value -> target().withGuardDbtp(
                        Math.clamp(value, Target.LEAST_GUARD_DBTP, 0)));
        section.getStyleClass().add("small");
        section.setConverter(new Words<>(name -> name.isEmpty() ? WHOLE : name));
        section.setAccessibleText("Figures of whole songs or of one section");
        Hint.on(section, "Show the figures of whole songs, or of the section of this name");
        section.setOnAction(event -> {
            if (!showing && section.getValue() != null) {
                model.showSection(section.getValue());
            }
        });
        CheckBox sorted = new CheckBox("Furthest off first");
        Hint.on(sorted, "Sort songs by how far they are from the target");
        sorted.setMinWidth(USE_PREF_SIZE);
        sorted.selectedProperty().subscribe(model::sortByDistance);
        SmallButton propose = new SmallButton(
                "Make equal",
                "Propose the gain that brings every song to the target, as far as the guard on true peaks allows"
                        + " (Ctrl+T)");
        propose.setOnAction(event -> model.propose());
        accept.setOnAction(event -> model.accept());
        acceptOne.setOnAction(event -> model.acceptSelected());
        drop.setOnAction(event -> model.drop());
        Region gap = new Region();
        gap.setMinWidth(8);
        HBox.setHgrow(gap, Priority.ALWAYS);
        getChildren()
                .addAll(
                        goal,
                        new Labelled("at", lufs),
                        new Labelled("within", tolerance),
                        new Labelled("peaks to", guard),
                        new Labelled("Showing", section),
                        sorted,
                        gap,
                        propose,
                        accept,
                        acceptOne,
                        drop);
        show(List.of());
    }

    private Target target() {
        return model.order().target();
    }

    private void aim(String what, Function<Target, Target> change) {
        if (!showing) {
            model.aim(what, change.apply(target()));
        }
    }

    private ValueField field(String name, String unit, double step, Function<Double, Target> change) {
        ValueField[] made = new ValueField[1];
        made[0] = new ValueField(name, unit, 1, step, value -> {
            model.aim(name, change.apply(value));
            show(model.levels());
        });
        made[0].setPrefColumnCount(5);
        made[0].setMinWidth(FIELD_WIDTH);
        made[0].setPrefWidth(FIELD_WIDTH);
        return made[0];
    }

    void show(OrderLevels levels) {
        showing = true;
        goal.setValue(target().goal());
        lufs.setValue(target().lufs());
        tolerance.setValue(target().toleranceLu());
        guard.setValue(target().guardDbtp());
        List<String> names = new ArrayList<>(List.of(""));
        names.addAll(levels.sections());
        if (!section.getItems().equals(names)) {
            section.getItems().setAll(names);
        }
        String shown = model.sectionProperty().get();
        section.setValue(names.contains(shown) ? shown : "");
        showing = false;
    }

    void show(List<Equal> proposals) {
        boolean any = !proposals.isEmpty();
        for (SmallButton button : List.of(accept, acceptOne, drop)) {
            button.setVisible(any);
            button.setManaged(any);
        }
        accept.setText(any ? "Take all " + proposals.size() : "Take all");
    }
}
