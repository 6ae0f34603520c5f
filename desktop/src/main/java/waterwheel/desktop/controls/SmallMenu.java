package waterwheel.desktop.controls;

import javafx.scene.control.MenuButton;

/**
 * A menu among buttons in a line: small, never cut short, with a tooltip, and named for screen readers, which do not read
 * what is written on a menu button by themselves.
 */
public class SmallMenu extends MenuButton {
    public SmallMenu(String name, String tip) {
        super(name);
        getStyleClass().add("small");
        setMinWidth(USE_PREF_SIZE);
        Hint.on(this, tip);
        setAccessibleText(name);
    }
}
