package waterwheel.desktop.controls;

import java.util.List;
import java.util.Set;
import javafx.css.PseudoClass;
import javafx.geometry.Pos;
import javafx.scene.Node;
import javafx.scene.control.TextInputControl;
import javafx.scene.input.KeyEvent;
import javafx.scene.input.MouseEvent;
import javafx.scene.layout.HBox;
import waterwheel.core.session.ChannelId;
import waterwheel.desktop.model.SessionModel;

/**
 * A row of a list that stands for a channel. A press selects it alone, with Ctrl beside what is selected, with Shift all
 * from the selected one to here; Up and Down go from row to row. What has the focus is selected.
 */
public abstract class ChannelRow extends HBox {
    private static final PseudoClass SELECTED = PseudoClass.getPseudoClass("selected");

    protected final SessionModel model;
    protected final ChannelId id;

    protected ChannelRow(SessionModel model, ChannelId id) {
        this.model = model;
        this.id = id;
        setAlignment(Pos.CENTER_LEFT);
        setFocusTraversable(true);
        focusedProperty().subscribe(focused -> {
            if (focused && !selected()) {
                model.select(id);
            }
        });
    }

    /** The channel that it stands for. */
    public final ChannelId channelId() {
        return id;
    }

    /** Whether a key is meant for a field of the row, where letters are letters. */
    protected static boolean inField(KeyEvent event) {
        return event.getTarget() instanceof TextInputControl;
    }

    protected final boolean selected() {
        return model.selectionProperty().get().contains(id);
    }

    /** Selects as a press with Ctrl, Shift or neither does. */
    protected final void press(MouseEvent event) {
        if (event.isShortcutDown()) {
            model.toggleSelected(id);
        } else if (event.isShiftDown()) {
            model.selectTo(id);
        } else {
            pressAlone();
        }
        requestFocus();
        // The list around would take the focus for itself.
        event.consume();
    }

    /** A press without Ctrl and Shift. */
    protected void pressAlone() {
        model.select(id);
    }

    /** Goes to the row above or below; the selection goes along to there, or is that row alone. */
    protected final void neighbour(int step, boolean along) {
        Node place = RowList.placeOf(this);
        List<Node> siblings = place.getParent().getChildrenUnmodifiable();
        for (int i = siblings.indexOf(place) + step; i >= 0 && i < siblings.size(); i += step) {
            if (RowList.rowAt(siblings.get(i)) instanceof ChannelRow row) {
                if (along) {
                    model.selectTo(row.id);
                } else {
                    model.select(row.id);
                }
                row.requestFocus();
                return;
            }
        }
    }

    /** Shows whether it is among what is selected. */
    public final void showSelected(Set<ChannelId> selection) {
        pseudoClassStateChanged(SELECTED, selection.contains(id));
    }
}
