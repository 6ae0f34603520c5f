package waterwheel.desktop.controls;

import java.util.Map;
import javafx.scene.input.KeyCode;
import javafx.scene.input.KeyCombination;
import javafx.scene.input.KeyEvent;

/** A value in words or figures that can be typed: Enter and leaving the field take it, Escape puts it back. */
public abstract class TypedField extends RestingField {
    private String shown = "";

    TypedField() {
        addEventFilter(KeyEvent.KEY_PRESSED, this::onKey);
        focusedProperty().subscribe(focused -> {
            if (!focused) {
                commit();
            }
        });
    }

    /** Takes what was typed; the owner shows what became of it. What is no value is not taken. */
    abstract void take(String typed);

    /** Has keys of its own; returns whether it took one. */
    boolean takesKey(KeyEvent event) {
        return false;
    }

    /** Shows a text; what is being typed stays. */
    final void show(String text) {
        boolean typing = isFocused() && !untouched();
        shown = text;
        if (!typing) {
            putBack();
        }
    }

    private boolean untouched() {
        return getText().equals(shown);
    }

    /** Shows what is so, in place of what was typed and not taken. */
    public final void putBack() {
        // Setting what is there already would cost as much as a new text.
        if (!untouched()) {
            setText(shown);
        }
    }

    /** Takes what was typed, as leaving the field does. */
    public final void commit() {
        if (!untouched()) {
            String typed = getText();
            // Before it is taken, because what comes of that may ask for it once more.
            putBack();
            take(typed);
        }
    }

    private void onKey(KeyEvent event) {
        if (takesKey(event)) {
            event.consume();
        } else if (event.getCode() == KeyCode.ENTER) {
            commit();
            selectAll();
            event.consume();
        } else if (event.getCode() == KeyCode.ESCAPE) {
            putBack();
            event.consume();
        } else if (event.isShortcutDown() && untouched()) {
            // Where nothing was typed there is nothing for the field to undo, so the menu's keys go to the menu.
            runAccelerator(event);
        }
    }

    private void runAccelerator(KeyEvent event) {
        for (Map.Entry<KeyCombination, Runnable> entry :
                getScene().getAccelerators().entrySet()) {
            if (entry.getKey().match(event)) {
                event.consume();
                entry.getValue().run();
                return;
            }
        }
    }
}
