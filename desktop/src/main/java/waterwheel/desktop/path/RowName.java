package waterwheel.desktop.path;

import javafx.scene.control.Label;
import waterwheel.desktop.controls.Hint;

/** What a row of the path is called. A long name takes another line, so that neither it nor a figure beside it is cut. */
final class RowName extends Label {
    RowName() {
        setMinWidth(0);
        setMinHeight(USE_PREF_SIZE);
        setWrapText(true);
        Hint.wholeText(this);
    }
}
