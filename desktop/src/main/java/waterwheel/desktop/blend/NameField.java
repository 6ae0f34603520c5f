package waterwheel.desktop.blend;

import java.util.function.Consumer;
import javafx.scene.control.TextField;
import javafx.scene.control.Tooltip;

/** A name that is typed: Enter and leaving the field take it; a blank one is not taken. */
final class NameField extends TextField {
    private final Consumer<String> taken;

    NameField(String what, Consumer<String> taken) {
        this.taken = taken;
        setMinWidth(BlendView.NAME_WIDTH);
        setMaxWidth(BlendView.NAME_WIDTH);
        getStyleClass().add("name-field");
        setAccessibleText(what);
        setTooltip(new Tooltip(what));
        setOnAction(event -> take());
        focusedProperty().subscribe(focused -> {
            // A field whose lane is gone has nothing to name any more.
            if (!focused && getScene() != null) {
                take();
            }
        });
    }

    private void take() {
        String typed = getText().strip();
        if (!typed.isEmpty()) {
            taken.accept(typed);
        }
    }
}
