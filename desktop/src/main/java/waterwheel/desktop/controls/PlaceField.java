package waterwheel.desktop.controls;

import java.util.function.Consumer;
import javafx.scene.control.TextField;
import javafx.scene.control.Tooltip;
import javafx.scene.input.KeyCode;
import javafx.scene.input.KeyEvent;

/** A placement as it reads, and typed: {@code left 40}, {@code centre, 80}; Enter takes it, Escape puts it back. */
final class PlaceField extends TextField {
    private final Consumer<PlaceText> taken;
    private String shown = "";

    /** @param name of the channel */
    PlaceField(String name, boolean twoSides, Consumer<PlaceText> taken) {
        this.taken = taken;
        getStyleClass().addAll("place-field", "figure");
        setAccessibleText("Placement of " + name + " in words");
        setTooltip(new Tooltip("Placement of " + name + ": type left 40, centre or right 40"
                + (twoSides ? ", and the width behind a comma, as in centre, 80" : "")
                + "; Enter takes it, Escape puts it back"));
        addEventFilter(KeyEvent.KEY_PRESSED, event -> {
            if (event.getCode() == KeyCode.ENTER) {
                take();
                selectAll();
                event.consume();
            } else if (event.getCode() == KeyCode.ESCAPE) {
                setText(shown);
                event.consume();
            }
        });
        focusedProperty().subscribe(focused -> {
            if (!focused) {
                take();
            }
        });
    }

    /** Shows a place; what is being typed stays. */
    void show(String text) {
        boolean typing = isFocused() && !getText().equals(shown);
        shown = text;
        if (!typing && !text.equals(getText())) {
            setText(text);
        }
    }

    private void take() {
        if (!getText().equals(shown)) {
            PlaceText.parse(getText()).ifPresent(taken);
            setText(shown);
        }
    }
}
