package waterwheel.desktop.controls;

import java.lang.ref.WeakReference;
import java.util.Objects;
import java.util.function.Supplier;
import javafx.event.EventHandler;
import javafx.scene.Node;
import javafx.scene.control.Labeled;
import javafx.scene.control.Tooltip;
import javafx.scene.input.MouseEvent;
import org.jspecify.annotations.Nullable;

/**
 * What a control is for, in words that stand beside the pointer when it rests there and that screen readers tell as its
 * help. One tooltip goes from control to control: each has a window's worth of parts, and hundreds of them were a tenth
 * of what a start costs. Interface thread.
 */
public final class Hint {
    private static final String KEY = Hint.class.getName();
    private static final EventHandler<MouseEvent> ENTERED = event -> show((Node) event.getSource());
    private static final EventHandler<MouseEvent> EXITED = event -> showAround((Node) event.getSource(), event);

    private static @Nullable Tooltip tooltip;
    /** Where the tooltip is, weakly: what is closed may go. */
    private static WeakReference<@Nullable Node> place = new WeakReference<>(null);

    private Hint() {}

    /**
     * Gives a control its words, in place of those that it had.
     *
     * @param words null for none
     */
    public static void on(Node node, @Nullable String words) {
        boolean ownHelp = !Objects.equals(node.getAccessibleHelp(), of(node));
        set(node, words);
        if (!ownHelp) {
            node.setAccessibleHelp(of(node));
        }
    }

    /** Tells the whole of a label's text, which may be cut short for want of room, whatever it says by then. */
    public static void wholeText(Labeled label) {
        set(label, (Supplier<String>) label::getText);
    }

    /** The words of a control; null where it has none, or a text that is blank. */
    public static @Nullable String of(Node node) {
        Object words = node.hasProperties() ? node.getProperties().get(KEY) : null;
        String said = words instanceof Supplier<?> later ? (String) later.get() : (String) words;
        return said == null || said.isBlank() ? null : said;
    }

    private static void set(Node node, @Nullable Object words) {
        if (words == null) {
            if (node.hasProperties()) {
                node.getProperties().remove(KEY);
            }
            node.removeEventHandler(MouseEvent.MOUSE_ENTERED, ENTERED);
            node.removeEventHandler(MouseEvent.MOUSE_EXITED, EXITED);
        } else {
            node.getProperties().put(KEY, words);
            node.addEventHandler(MouseEvent.MOUSE_ENTERED, ENTERED);
            node.addEventHandler(MouseEvent.MOUSE_EXITED, EXITED);
        }
        if (node == place.get()) {
            show(node);
        }
    }

    /** Brings the tooltip to a control, where the toolkit shows it when the pointer rests. */
    private static void show(Node node) {
        Tooltip shown = tooltip;
        if (shown == null) {
            shown = new Tooltip();
            tooltip = shown;
        }
        Node before = place.get();
        String words = of(node);
        if (words != null) {
            shown.setText(words);
        }
        if (before == node && words != null) {
            return;
        }
        if (before == null) {
            // Whoever had it went without being left, and the toolkit lets go of it only where it can be taken away.
            Tooltip.install(node, shown);
        }
        Tooltip.uninstall(before == null ? node : before, shown);
        if (words != null) {
            Tooltip.install(node, shown);
        }
        place = new WeakReference<>(words == null ? null : node);
    }

    /** The pointer leaves a control, and may still be on one that it lies in. */
    private static void showAround(Node left, MouseEvent event) {
        for (Node around = left.getParent(); around != null; around = around.getParent()) {
            if (of(around) != null && around.contains(around.screenToLocal(event.getScreenX(), event.getScreenY()))) {
                show(around);
                return;
            }
        }
    }
}
