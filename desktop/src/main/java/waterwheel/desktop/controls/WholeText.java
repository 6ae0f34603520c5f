package waterwheel.desktop.controls;

import javafx.scene.control.Labeled;
import javafx.scene.control.Tooltip;

/** Tells on hover the whole of a text that may be cut short for want of room. */
public final class WholeText {
    private WholeText() {}

    /** Gives a label a tooltip that always says what it says. */
    public static void onHover(Labeled label) {
        Tooltip tip = new Tooltip();
        tip.textProperty().bind(label.textProperty());
        label.setTooltip(tip);
    }
}
