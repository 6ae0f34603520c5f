package waterwheel.desktop.controls;

import javafx.scene.control.ScrollPane;
import javafx.scene.layout.Region;

/**
 * An empty place as wide as a list's scroll bar, put beside what stands above or below the list, so that its columns
 * keep to the list's.
 */
public final class ScrollBarGap extends Region {
    /** Makes the place for a list; it is 0 wide while the list shows no scroll bar. */
    public ScrollBarGap(ScrollPane list) {
        list.viewportBoundsProperty()
                .subscribe(shown -> setMinWidth(shown.getWidth() > 0 ? list.getWidth() - shown.getWidth() : 0));
    }
}
