package waterwheel.desktop.controls;

import javafx.geometry.Pos;
import javafx.scene.control.Label;

/** A text that keeps at least the width of its column. */
public final class ColumnLabel extends Label {
    public ColumnLabel(String text, double width, Pos alignment) {
        super(text);
        setMinWidth(width);
        setAlignment(alignment);
    }

    /** One whose text starts at the left. */
    public ColumnLabel(String text, double width) {
        this(text, width, Pos.CENTER_LEFT);
    }
}
