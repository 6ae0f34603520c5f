package waterwheel.desktop.path;

import javafx.scene.layout.VBox;
import waterwheel.core.session.Channel;

/** A row of the path: one stage, or what is added and branches off between two of them. */
class PathRow extends VBox {
    private final StageControls.Control control;

    PathRow(StageControls.Control control) {
        this.control = control;
    }

    /** Makes a row that is a control and nothing more, because no level belongs to it. */
    static PathRow ofBranch(StageControls.Control control) {
        PathRow row = new PathRow(control);
        row.getStyleClass().add("branch-row");
        row.getChildren().add(control.node());
        return row;
    }

    final void updateControl(Channel channel) {
        control.show(channel);
    }
}
