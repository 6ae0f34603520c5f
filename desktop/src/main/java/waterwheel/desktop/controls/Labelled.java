package waterwheel.desktop.controls;

import javafx.geometry.Pos;
import javafx.scene.Node;
import javafx.scene.control.Label;
import javafx.scene.layout.HBox;

/** A control with what it is beside it, never cut short. */
public final class Labelled extends HBox {
    private static final double SPACING = 6;

    public Labelled(String name, Node control) {
        super(SPACING);
        Label label = new Label(name);
        label.setMinWidth(USE_PREF_SIZE);
        setAlignment(Pos.CENTER_LEFT);
        getChildren().addAll(label, control);
    }
}
