package waterwheel.desktop.frame;

import javafx.scene.Node;
import javafx.scene.input.KeyCode;
import javafx.scene.input.KeyEvent;
import javafx.scene.layout.VBox;
import javafx.util.Subscription;

/** A panel that is opened under the view and put away again: by its key, its button, or Escape. It hears of nothing while it is away. */
public abstract class BottomPanel extends VBox implements AutoCloseable {
    private Subscription subscriptions = Subscription.EMPTY;

    protected BottomPanel() {
        super(5);
        getStyleClass().add("clips-panel");
        setOnKeyPressed(this::escape);
        shown(false);
    }

    /** Shows what there is to show, and says what is heard of from now on. */
    protected abstract Subscription opened();

    /** Ends what goes on only while it is open. */
    protected void putAway() {}

    /** Has Escape on a list put the panel away; the list would keep it for itself. */
    protected final void escapesFrom(Node list) {
        list.addEventFilter(KeyEvent.KEY_PRESSED, this::escape);
    }

    private void escape(KeyEvent event) {
        if (event.getCode() == KeyCode.ESCAPE) {
            leave();
            event.consume();
        }
    }

    private void shown(boolean shown) {
        setVisible(shown);
        setManaged(shown);
    }

    /** Opens it, or puts it away. */
    public final void toggle() {
        if (isVisible()) {
            leave();
        } else {
            open();
        }
    }

    /** Puts it away; nothing happens where it is away. */
    protected final void leave() {
        if (isVisible()) {
            shown(false);
            close();
            putAway();
        }
    }

    /** Opens it; one that is open begins anew. */
    public final void open() {
        shown(true);
        close();
        subscriptions = opened();
    }

    @Override
    public final void close() {
        subscriptions.unsubscribe();
    }
}
