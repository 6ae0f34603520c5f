package waterwheel.desktop.controls;

import java.util.function.Consumer;

/** A name that is typed: Enter and leaving the field take it; a blank one is not taken. */
public final class NameField extends RestingField {
    private final Consumer<String> taken;

    /**
     * Makes a field.
     *
     * @param what is named, for the tooltip and screen readers
     * @param width in pixels
     */
    public NameField(String what, double width, Consumer<String> taken) {
        this.taken = taken;
        setMinWidth(width);
        setMaxWidth(width);
        getStyleClass().add("name-field");
        setAccessibleText(what);
        Hint.on(this, what);
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
