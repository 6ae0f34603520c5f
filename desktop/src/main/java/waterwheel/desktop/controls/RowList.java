package waterwheel.desktop.controls;

import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Objects;
import java.util.function.Function;
import java.util.function.Predicate;
import java.util.stream.Stream;
import javafx.animation.AnimationTimer;
import javafx.application.Platform;
import javafx.scene.Node;
import javafx.scene.control.ScrollPane;
import javafx.scene.layout.Pane;
import javafx.scene.layout.Region;
import javafx.scene.layout.VBox;
import org.jspecify.annotations.Nullable;

/**
 * Rows in a list that scrolls. A list of no more than {@value #WHOLE} rows is made whole. Of a longer one only the rows
 * near what is seen are there: they are made a few at a time between two pictures, so that nothing waits for them, and
 * let go of when they are far away.
 *
 * @param <K> what a row stands for
 * @param <R> a row; it must hear of nothing by itself, for it comes and goes
 */
public final class RowList<K, R extends Region> extends VBox {
    private static final int WHOLE = 60;
    /** Made at once where a long list is shown for the first time: about what a window holds. */
    private static final int FIRST = 24;
    /** Made beyond what is seen, and kept beyond that. */
    private static final int NEAR = 12;

    private static final int FAR = 40;
    /** For making rows between two pictures, and finding their styles, which takes longer than making them. */
    private static final long PATIENCE_NANOS = 8_000_000;

    private final ScrollPane scroll;
    private double rowHeight;
    private final Function<K, R> make;
    private Map<K, Slot<K, R>> slots = new LinkedHashMap<>();
    private @Nullable K brought;
    private boolean filling;
    private final AnimationTimer filler = new AnimationTimer() {
        @Override
        public void handle(long now) {
            if (fill()) {
                stop();
                filling = false;
            }
        }
    };

    /** What stands in the list: a row, or something between rows. */
    public sealed interface Entry<K> {
        /** A row, by what it stands for. */
        record Row<K>(K key) implements Entry<K> {}

        /** Something between rows, which is always there. */
        record Between<K>(Node node) implements Entry<K> {}
    }

    /**
     * Makes an empty list.
     *
     * @param scroll shows this list
     * @param rowHeight of every row, in pixels
     * @param make makes a row as it is to be shown now
     */
    public RowList(ScrollPane scroll, double rowHeight, Function<K, R> make) {
        this.scroll = scroll;
        this.rowHeight = rowHeight;
        this.make = make;
        scroll.setContent(this);
        scroll.vvalueProperty().subscribe(place -> wake());
        scroll.viewportBoundsProperty().subscribe((before, now) -> {
            wake();
            if (now.getHeight() < before.getHeight()) {
                keepInSight(before.getHeight());
            }
        });
        heightProperty().subscribe(height -> wake());
        sceneProperty().subscribe(scene -> wake());
    }

    /** Has every row take another height, in pixels. */
    public void setRowHeight(double height) {
        if (height != rowHeight) {
            rowHeight = height;
            slots.values().forEach(Slot::requestLayout);
            wake();
        }
    }

    /** Shows these, in this order. Rows that are there already stay the same. */
    public void show(List<? extends Entry<K>> entries) {
        Map<K, Slot<K, R>> before = slots;
        slots = new LinkedHashMap<>();
        List<Node> nodes = new ArrayList<>();
        for (Entry<K> entry : entries) {
            switch (entry) {
                case Entry.Row<K>(K key) -> {
                    Slot<K, R> old = before.get(key);
                    Slot<K, R> slot = old == null ? new Slot<>(this, key) : old;
                    slots.put(key, slot);
                    nodes.add(slot);
                }
                case Entry.Between<K>(Node node) -> nodes.add(node);
            }
        }
        getChildren().setAll(nodes);
        if (slots.size() <= WHOLE) {
            slots.values().forEach(Slot::filled);
        } else if (made().findAny().isEmpty()) {
            slots.values().stream().limit(FIRST).forEach(Slot::filled);
        }
        wake();
    }

    /** Has every row made anew by the next {@link #show}. */
    public void forget() {
        slots = new LinkedHashMap<>();
        getChildren().clear();
    }

    /** What the rows stand for, in order, made or not. */
    public List<K> keys() {
        return List.copyOf(slots.keySet());
    }

    /** The rows that are made now. */
    public Stream<R> made() {
        return slots.values().stream().map(slot -> slot.row).filter(Objects::nonNull);
    }

    /** The rows that are made now and at least partly seen. */
    public Stream<R> inSight() {
        double seen = scroll.getViewportBounds().getHeight();
        double top = top(seen);
        return slots.values().stream()
                .filter(slot -> slot.lies(top, seen, 0))
                .map(slot -> slot.row)
                .filter(Objects::nonNull);
    }

    /** Whether every row is made that is at least partly seen. */
    public boolean complete() {
        double seen = scroll.getViewportBounds().getHeight();
        double top = top(seen);
        return slots.values().stream().noneMatch(slot -> slot.row == null && slot.lies(top, seen, 0));
    }

    /** Where what is seen begins, in pixels from the list's upper end. */
    private double top(double seen) {
        return scroll.getVvalue() * Math.max(0, getHeight() - seen);
    }

    /** Scrolls as little as brings a row into sight, which is made for it; does nothing where there is none. */
    public void bring(K key) {
        Slot<K, R> slot = slots.get(key);
        if (slot != null) {
            brought = key;
            slot.filled();
            if (isNeedsLayout() || getHeight() == 0) {
                Sight.bring(scroll, slot);
            } else {
                Sight.bring(scroll, slot.getLayoutY(), slot.getLayoutY() + rowHeight);
            }
        }
    }

    /** What was brought into sight last stays there when something else takes some of the list's room. */
    private void keepInSight(double seenBefore) {
        K key = brought;
        Slot<K, R> slot = key == null ? null : slots.get(key);
        if (key != null && slot != null && slot.lies(top(seenBefore), seenBefore, 0)) {
            // The list is being laid out just now.
            Platform.runLater(() -> bring(key));
        }
    }

    /** The row at a place among the nodes of a list, made if need be; a node that is no such place is itself. */
    static Node rowAt(Node node) {
        return node instanceof Slot<?, ?> slot ? slot.filled() : node;
    }

    /** What stands in a list for a row: the row's place, or the row itself where it is in no such list. */
    static Node placeOf(Region row) {
        return row.getParent() instanceof Slot<?, ?> slot ? slot : row;
    }

    private void wake() {
        if (!filling && slots.size() > WHOLE) {
            filling = true;
            filler.start();
        }
    }

    /** Makes what is near and lets go of what is far; returns whether everything near is there. */
    private boolean fill() {
        if (slots.size() <= WHOLE || getScene() == null) {
            return true;
        }
        if (isNeedsLayout() || getHeight() == 0) {
            // Nobody knows yet where anything lies.
            return false;
        }
        double seen = scroll.getViewportBounds().getHeight();
        double top = top(seen);
        for (Slot<K, R> slot : slots.values()) {
            if (!slot.lies(top, seen, FAR) && slot.row != null && !slot.isFocusWithin()) {
                slot.empty();
            }
        }
        long end = System.nanoTime() + PATIENCE_NANOS;
        return fill(slot -> slot.lies(top, seen, 0), end) && fill(slot -> slot.lies(top, seen, NEAR), end);
    }

    private boolean fill(Predicate<Slot<K, R>> wanted, long endNanos) {
        for (Slot<K, R> slot : slots.values()) {
            if (slot.row == null && wanted.test(slot)) {
                if (System.nanoTime() > endNanos) {
                    return false;
                }
                slot.filled().applyCss();
            }
        }
        return true;
    }

    /** The place of a row, with or without it. */
    private static final class Slot<K, R extends Region> extends Pane {
        private final RowList<K, R> list;
        private final K key;
        private @Nullable R row;

        Slot(RowList<K, R> list, K key) {
            this.list = list;
            this.key = key;
        }

        R filled() {
            R there = row;
            if (there == null) {
                there = list.make.apply(key);
                row = there;
                // A row that comes or goes moves none of the others.
                there.setManaged(false);
                getChildren().setAll(there);
                layoutChildren();
            }
            return there;
        }

        void empty() {
            row = null;
            getChildren().clear();
        }

        /** Whether it is among what is seen, or no more than some rows away. */
        boolean lies(double top, double seen, int rows) {
            double around = rows * list.rowHeight;
            return getLayoutY() + getHeight() > top - around && getLayoutY() < top + seen + around;
        }

        @Override
        protected double computeMinWidth(double height) {
            return row == null ? 0 : row.minWidth(height);
        }

        @Override
        protected double computePrefWidth(double height) {
            return row == null ? 0 : row.prefWidth(height);
        }

        @Override
        protected double computeMinHeight(double width) {
            return list.rowHeight;
        }

        @Override
        protected double computePrefHeight(double width) {
            return list.rowHeight;
        }

        @Override
        protected void layoutChildren() {
            if (row != null) {
                row.resizeRelocate(0, 0, getWidth(), getHeight());
            }
        }
    }
}
