package waterwheel.desktop.controls;

import javafx.scene.control.Button;

/** A button among others in a line: small, never cut short, with a tooltip. */
public final class SmallButton extends Button {
    public SmallButton(String name, String tip) {
        super(name);
        getStyleClass().add("small");
        setMinWidth(USE_PREF_SIZE);
        Hint.on(this, tip);
    }
}
