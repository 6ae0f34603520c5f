package waterwheel.desktop.notes;

import javafx.scene.control.Button;
import javafx.scene.input.KeyCode;
import javafx.scene.layout.HBox;
import javafx.scene.layout.Priority;
import waterwheel.core.controllers.SimulatedController;
import waterwheel.core.notes.Note;
import waterwheel.desktop.controls.Hint;

/** A keyboard for those who have none: two octaves, pressed with the mouse or by Space and Enter; sends what a real one would. */
final class KeyRow extends HBox {
    private static final int LOWEST = 48;
    private static final int HIGHEST = 72;
    private static final int VELOCITY = 96;

    KeyRow(SimulatedController keyboard) {
        super(2);
        for (int key = LOWEST; key <= HIGHEST; key++) {
            getChildren().add(key(keyboard, key));
        }
    }

    private static Button key(SimulatedController keyboard, int key) {
        Button button = new Button(Note.name(key));
        button.getStyleClass().addAll("small", "piano-key");
        button.setMinWidth(0);
        button.setMaxWidth(Double.MAX_VALUE);
        HBox.setHgrow(button, Priority.ALWAYS);
        Hint.on(button, "Play " + Note.name(key) + " while it is held");
        button.setAccessibleText("Key " + Note.name(key));
        button.setOnMousePressed(event -> keyboard.key(key, VELOCITY));
        button.setOnMouseReleased(event -> keyboard.key(key, 0));
        boolean[] down = new boolean[1];
        button.setOnKeyPressed(event -> {
            if (event.getCode() == KeyCode.SPACE || event.getCode() == KeyCode.ENTER) {
                if (!down[0]) {
                    down[0] = true;
                    keyboard.key(key, VELOCITY);
                }
                event.consume();
            }
        });
        button.setOnKeyReleased(event -> {
            if (down[0]) {
                down[0] = false;
                keyboard.key(key, 0);
                event.consume();
            }
        });
        return button;
    }
}
