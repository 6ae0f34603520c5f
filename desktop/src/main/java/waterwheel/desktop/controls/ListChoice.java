package waterwheel.desktop.controls;

import javafx.scene.control.ListView;

/** The choice in a list while the keyboard is in a field beside it. */
public final class ListChoice {
    /** Lines that stay in sight above the chosen one. */
    private static final int ABOVE = 4;

    private ListChoice() {}

    /** Moves the choice of a list down by so many lines, or up by a negative number, as far as there are any. */
    public static void moveBy(ListView<?> list, int lines) {
        if (!list.getItems().isEmpty()) {
            int to = Math.clamp(
                    list.getSelectionModel().getSelectedIndex() + lines,
                    0,
                    list.getItems().size() - 1);
            list.getSelectionModel().select(to);
            list.scrollTo(Math.max(0, to - ABOVE));
        }
    }
}
