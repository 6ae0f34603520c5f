package waterwheel.desktop.app;

import java.util.HashMap;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.function.Supplier;
import javafx.scene.layout.VBox;
import waterwheel.desktop.frame.BottomPanel;

/**
 * What can be opened under a session's view, in the order in which it lies there. Each panel is made when it is first
 * wanted: most are not, in most sittings, and all together are a good part of what a window needs to come up.
 */
final class Panels extends VBox {
    private final Map<Class<? extends BottomPanel>, Supplier<? extends BottomPanel>> makers = new LinkedHashMap<>();
    private final Map<Class<? extends BottomPanel>, BottomPanel> made = new HashMap<>();

    /** Offers a panel, which lies below those that were offered before it. */
    <P extends BottomPanel> Panels with(Class<P> kind, Supplier<P> maker) {
        makers.put(kind, maker);
        return this;
    }

    /** The panel of a kind, made now if it was not yet; nothing where none of the kind is offered. */
    <P extends BottomPanel> Optional<P> find(Class<P> kind) {
        Supplier<? extends BottomPanel> maker = makers.get(kind);
        if (maker == null) {
            return Optional.empty();
        }
        BottomPanel panel = made.get(kind);
        if (panel == null) {
            panel = maker.get();
            place(kind, panel);
        }
        return Optional.of(kind.cast(panel));
    }

    private void place(Class<? extends BottomPanel> kind, BottomPanel panel) {
        List<Class<? extends BottomPanel>> order = List.copyOf(makers.keySet());
        long above = order.subList(0, order.indexOf(kind)).stream()
                .filter(made::containsKey)
                .count();
        made.put(kind, panel);
        getChildren().add((int) above, panel);
    }

    /** Whether a panel of a kind is open. */
    boolean shows(Class<? extends BottomPanel> kind) {
        BottomPanel panel = made.get(kind);
        return panel != null && panel.isVisible();
    }

    /** Opens a panel, or puts it away. */
    void toggle(Class<? extends BottomPanel> kind) {
        find(kind).ifPresent(BottomPanel::toggle);
    }

    /** Has no panel hear of the session any more. */
    void close() {
        made.values().forEach(BottomPanel::close);
    }
}
