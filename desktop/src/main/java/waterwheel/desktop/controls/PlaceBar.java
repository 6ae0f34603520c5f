package waterwheel.desktop.controls;

import java.util.function.BiConsumer;
import javafx.css.PseudoClass;
import javafx.scene.AccessibleRole;
import javafx.scene.control.Control;
import javafx.scene.control.Skin;
import javafx.scene.control.SkinBase;
import javafx.scene.input.KeyEvent;
import javafx.scene.input.MouseEvent;
import javafx.scene.layout.Region;

/**
 * Where a channel sits between left and right: a thumb at its position, and for two sides the stretch that they fill.
 * Dragging moves it, dragging an end of the stretch widens it. Keys: Left and Right move it by 1 %, Up and Down widen
 * it (Shift by ten times as much), Delete puts it back.
 */
public final class PlaceBar extends Control {
    private static final PseudoClass RIDDEN = PseudoClass.getPseudoClass("ridden");
    private static final double STEP = 0.01;
    private static final double NEAR_PIXELS = 5;
    private static final double MARGIN = 5;
    private static final double HEIGHT = 14;

    private static int gestures;

    private final boolean twoSides;
    private final BiConsumer<Double, String> move;
    private final BiConsumer<Double, String> widen;
    private final Region track = part("track");
    private final Region centre = part("centre");
    private final Region span = part("span");
    private final Region thumb = part("thumb");
    private double position;
    private double width = 1;
    private boolean balance;
    private String gesture = "";
    private double pressedAt;
    private double pressedPosition;
    /** -1 and 1 where an end of the stretch is held, 0 where the thumb is. */
    private int held;

    /**
     * Makes a bar.
     *
     * @param name of the channel
     * @param move takes a position from -1 (left) to 1 (right), and the gesture that it is part of
     * @param widen takes a width from 0 to 2, and the gesture
     */
    public PlaceBar(String name, boolean twoSides, BiConsumer<Double, String> move, BiConsumer<Double, String> widen) {
        this.twoSides = twoSides;
        this.move = move;
        this.widen = widen;
        getStyleClass().add("place-bar");
        setAccessibleRole(AccessibleRole.SLIDER);
        setAccessibleText("Placement of " + name);
        Hint.on(
                this,
                "Placement of " + name + ": drag, or Left and Right (Shift for 10 %)"
                        + (twoSides ? "; drag an end, or Up and Down, for the width" : "")
                        + "; Delete puts it back; type it"
                        + " below");
        span.setVisible(twoSides);
        addEventHandler(MouseEvent.MOUSE_PRESSED, this::press);
        addEventHandler(MouseEvent.MOUSE_DRAGGED, this::drag);
        addEventHandler(MouseEvent.MOUSE_RELEASED, event -> gesture = "");
        addEventHandler(MouseEvent.MOUSE_CLICKED, event -> {
            if (event.getClickCount() == 2) {
                reset();
            }
        });
        addEventHandler(KeyEvent.KEY_PRESSED, this::key);
    }

    private static Region part(String styleClass) {
        Region region = new Region();
        region.getStyleClass().add(styleClass);
        region.setManaged(false);
        region.setMouseTransparent(true);
        return region;
    }

    @Override
    protected Skin<?> createDefaultSkin() {
        return new Bar(this);
    }

    /**
     * Shows a place without sending it.
     *
     * @param balanced whether the far side is turned down instead of moved
     * @param ridden whether a curve moves it
     */
    public void show(double at, double across, boolean balanced, boolean ridden) {
        position = at;
        width = across;
        balance = balanced;
        pseudoClassStateChanged(RIDDEN, ridden);
        setAccessibleHelp(PlaceText.of(at, across, twoSides) + (ridden ? ", ridden" : ""));
        requestLayout();
    }

    private double x(double place) {
        return MARGIN + (place + 1) / 2 * (getWidth() - 2 * MARGIN);
    }

    /** The end of the stretch on a side, -1 for the left one. */
    private double end(int side) {
        return balance ? side : Math.clamp(position + side * Math.min(width, 1), -1, 1);
    }

    private void press(MouseEvent event) {
        if (!event.isPrimaryButtonDown()) {
            return;
        }
        requestFocus();
        gesture = "placement drag " + ++gestures;
        pressedAt = event.getX();
        pressedPosition = position;
        held = 0;
        if (twoSides && !balance && Math.abs(event.getX() - x(position)) > NEAR_PIXELS) {
            for (int side : new int[] {-1, 1}) {
                if (Math.abs(event.getX() - x(end(side))) <= NEAR_PIXELS) {
                    held = side;
                }
            }
        }
        event.consume();
    }

    private void drag(MouseEvent event) {
        if (gesture.isEmpty()) {
            return;
        }
        double half = (getWidth() - 2 * MARGIN) / 2;
        if (held == 0) {
            move.accept(rounded(pressedPosition + (event.getX() - pressedAt) / half, -1), gesture);
        } else {
            widen.accept(rounded(held * ((event.getX() - x(0)) / half - position), 0), gesture);
        }
        event.consume();
    }

    /** To a whole percent between a least value and 1. */
    private static double rounded(double value, double least) {
        return Math.clamp(Math.rint(value / STEP) * STEP, least, 1);
    }

    private void key(KeyEvent event) {
        double by = event.isShiftDown() ? 10 * STEP : STEP;
        if (event.isShortcutDown() || event.isAltDown()) {
            return;
        }
        switch (event.getCode()) {
            case RIGHT -> move.accept(rounded(position + by, -1), "");
            case LEFT -> move.accept(rounded(position - by, -1), "");
            case UP -> widen(by);
            case DOWN -> widen(-by);
            case DELETE, BACK_SPACE -> reset();
            default -> {
                return;
            }
        }
        event.consume();
    }

    private void widen(double by) {
        if (twoSides) {
            widen.accept(Math.clamp(Math.rint((width + by) / STEP) * STEP, 0, 2), "");
        }
    }

    private void reset() {
        String both = "placement reset " + ++gestures;
        move.accept(0.0, both);
        if (twoSides) {
            widen.accept(1.0, both);
        }
    }

    /** Lays the parts out. */
    private static final class Bar extends SkinBase<PlaceBar> {
        Bar(PlaceBar bar) {
            super(bar);
            getChildren().addAll(bar.track, bar.centre, bar.span, bar.thumb);
        }

        @Override
        protected void layoutChildren(double x, double y, double w, double h) {
            PlaceBar bar = getSkinnable();
            double height = bar.getHeight();
            double middle = snapPositionY(height / 2);
            bar.track.resizeRelocate(MARGIN, middle - 1, Math.max(0, bar.getWidth() - 2 * MARGIN), 2);
            bar.centre.resizeRelocate(snapPositionX(bar.x(0)), 1, 1, height - 2);
            double from = bar.x(bar.end(-1));
            bar.span.resizeRelocate(from - 1, middle - 3, bar.x(bar.end(1)) - from + 2, 6);
            bar.span.pseudoClassStateChanged(PseudoClass.getPseudoClass("beyond"), bar.width > 1);
            bar.thumb.resizeRelocate(snapPositionX(bar.x(bar.position)) - 3, 1, 6, height - 2);
        }

        @Override
        protected double computePrefHeight(double w, double top, double right, double bottom, double left) {
            return HEIGHT;
        }

        @Override
        protected double computeMinHeight(double w, double top, double right, double bottom, double left) {
            return HEIGHT;
        }

        @Override
        protected double computePrefWidth(double h, double top, double right, double bottom, double left) {
            return 90;
        }
    }
}
