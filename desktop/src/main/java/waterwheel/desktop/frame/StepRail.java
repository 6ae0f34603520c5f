package waterwheel.desktop.frame;

import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.function.Consumer;
import javafx.scene.control.Label;
import javafx.scene.control.ToggleButton;
import javafx.scene.control.ToggleGroup;
import javafx.scene.layout.HBox;
import javafx.scene.layout.Priority;
import javafx.scene.layout.Region;
import javafx.scene.layout.VBox;
import waterwheel.core.findings.Finding;
import waterwheel.desktop.controls.Hint;
import waterwheel.desktop.model.SessionModel;

/** The steps of the work as words, each with the number of open findings there. */
public final class StepRail extends VBox {
    private final Map<Step, Label> counts = new LinkedHashMap<>();
    private final Map<Step, ToggleButton> buttons = new LinkedHashMap<>();

    /** Makes the rail; {@code chosen} takes the step that the user goes to. */
    public StepRail(SessionModel model, Consumer<Step> chosen) {
        getStyleClass().add("step-rail");
        setAccessibleText("Steps of the work");
        ToggleGroup group = new ToggleGroup();
        int number = 1;
        for (Step step : Step.values()) {
            Label name = new Label(step.label());
            Label count = new Label();
            count.getStyleClass().addAll("count", "figure");
            Region gap = new Region();
            HBox.setHgrow(gap, Priority.ALWAYS);
            ToggleButton button = new ToggleButton();
            button.setGraphic(new HBox(name, gap, count));
            button.getStyleClass().add("step");
            button.setMaxWidth(Double.MAX_VALUE);
            button.setToggleGroup(group);
            Hint.on(button, step.purpose() + " (Ctrl+" + number++ + ")");
            button.setOnAction(event -> {
                // A second click must not leave the rail without a step.
                button.setSelected(true);
                chosen.accept(step);
            });
            counts.put(step, count);
            buttons.put(step, button);
            getChildren().add(button);
        }
        model.keep(model.findingsProperty().subscribe(findings -> {
            for (Step step : Step.values()) {
                showCount(
                        step, findings.stream().filter(f -> Step.of(f) == step).toList());
            }
        }));
    }

    private void showCount(Step step, List<Finding> findings) {
        Label count = counts.get(step);
        ToggleButton button = buttons.get(step);
        if (count == null || button == null) {
            return;
        }
        count.setText(findings.isEmpty() ? "" : String.valueOf(findings.size()));
        button.setAccessibleText(step.label() + ", " + findings.size() + " findings");
    }

    /** Marks the step that is shown. */
    public void show(Step step) {
        ToggleButton button = buttons.get(step);
        if (button != null) {
            button.setSelected(true);
        }
    }
}
