package waterwheel.desktop.controllers;

import java.util.function.DoubleConsumer;
import javafx.geometry.Pos;
import javafx.scene.control.Button;
import javafx.scene.control.Label;
import javafx.scene.layout.GridPane;
import javafx.scene.layout.Priority;
import waterwheel.core.controllers.SimulatedController;
import waterwheel.desktop.controls.Fader;
import waterwheel.desktop.controls.Hint;

/** The simulated controller's parts: eight rows of a fader, a knob and a button, in two columns. */
final class SimulatedParts extends GridPane {
    private static final int ROWS = SimulatedController.PARTS / 2;

    private final SimulatedController controller;

    SimulatedParts(SimulatedController controller) {
        this.controller = controller;
        setHgap(8);
        setVgap(2);
        for (int i = 0; i < SimulatedController.PARTS; i++) {
            add(i);
        }
        shown(false);
    }

    private void add(int i) {
        Label number = new Label("Fader " + (i + 1));
        number.getStyleClass().add("muted");
        number.setMinWidth(USE_PREF_SIZE);
        Fader fader = slider("Fader " + (i + 1), place -> controller.fader(i, place));
        GridPane.setHgrow(fader, Priority.ALWAYS);
        Label turned = new Label("knob");
        turned.getStyleClass().add("muted");
        turned.setMinWidth(USE_PREF_SIZE);
        Fader knob = slider("Knob " + (i + 1), place -> controller.knob(i, place));
        knob.setPrefWidth(70);
        Button button = new Button("Button " + (i + 1));
        button.getStyleClass().add("small");
        button.setMinWidth(USE_PREF_SIZE);
        Hint.on(button, "Press this button of the simulated controller");
        button.setOnAction(event -> {
            controller.button(i, true);
            controller.button(i, false);
        });
        int column = i / ROWS * 5;
        add(number, column, i % ROWS);
        add(fader, column + 1, i % ROWS);
        add(turned, column + 2, i % ROWS);
        add(knob, column + 3, i % ROWS);
        add(button, column + 4, i % ROWS);
        setAlignment(Pos.CENTER_LEFT);
    }

    private static Fader slider(String name, DoubleConsumer send) {
        return new Fader(
                name + " of the simulated controller",
                Fader.Travel.even(0, 1, 0.001),
                0.01,
                0,
                (place, gesture) -> send.accept(place));
    }

    void shown(boolean shown) {
        setVisible(shown);
        setManaged(shown);
    }
}
