package waterwheel.desktop.controls;

import java.util.function.BiConsumer;
import javafx.scene.control.Slider;
import javafx.scene.input.KeyCode;
import javafx.scene.input.KeyEvent;
import javafx.scene.input.MouseEvent;
import waterwheel.core.units.FaderTravel;

/**
 * A horizontal control with a travel of its own: dragging is one gesture, arrow keys step the value, Delete resets it.
 * Values are the parameter's own, such as dB.
 */
public final class Fader extends Slider {
    /** How a value stands on the travel from 0 to 1. */
    public interface Travel {
        double toPlace(double value);

        double toValue(double place);

        /** The fader's travel: finest around unity. */
        Travel FADER = new Travel() {
            @Override
            public double toPlace(double value) {
                return FaderTravel.toPlace(value);
            }

            @Override
            public double toValue(double place) {
                double db = FaderTravel.toDb(place);
                // What a hand can set is a tenth of a dB; the rest of the digits would be noise.
                return db < -90 ? Double.NEGATIVE_INFINITY : Math.round(db * 10) / 10.0;
            }
        };

        /** An even travel from one value to another, in steps. */
        static Travel even(double from, double to, double step) {
            return new Travel() {
                @Override
                public double toPlace(double value) {
                    return (value - from) / (to - from);
                }

                @Override
                public double toValue(double place) {
                    return Math.round((from + place * (to - from)) / step) * step;
                }
            };
        }
    }

    private static int gestures;

    private final Travel travel;
    /** True while a value is shown rather than set by the user, and during construction. */
    private boolean showing = true;

    /**
     * Makes a control.
     *
     * @param name what the value is, for screen readers and the tooltip
     * @param step what an arrow key changes the value by; with Shift ten times as much
     * @param rest the value that Delete and a double click put back
     * @param change takes a new value and the gesture that it is part of; an empty gesture is a step of its own
     */
    public Fader(String name, Travel travel, double step, double rest, BiConsumer<Double, String> change) {
        super(0, 1, 0);
        this.travel = travel;
        getStyleClass().add("fader");
        setAccessibleText(name);
        Hint.on(this, name + ": drag, or arrow keys (Shift for ten times as much); Delete puts it back");
        String[] gesture = {""};
        // A press beside the thumb moves it at once, before a handler would hear of it.
        addEventFilter(MouseEvent.MOUSE_PRESSED, event -> gesture[0] = "drag " + ++gestures);
        addEventHandler(MouseEvent.MOUSE_RELEASED, event -> gesture[0] = "");
        valueProperty().subscribe(place -> {
            if (!showing) {
                change.accept(travel.toValue(place.doubleValue()), gesture[0]);
            }
        });
        addEventFilter(KeyEvent.KEY_PRESSED, event -> {
            double now = travel.toValue(getValue());
            double from = Double.isFinite(now) ? now : -90;
            double by = event.isShiftDown() ? 10 * step : step;
            if (event.getCode() == KeyCode.RIGHT || event.getCode() == KeyCode.UP) {
                change.accept(Math.round((from + by) / step) * step, "");
            } else if (event.getCode() == KeyCode.LEFT || event.getCode() == KeyCode.DOWN) {
                change.accept(Math.round((from - by) / step) * step, "");
            } else if (event.getCode() == KeyCode.DELETE || event.getCode() == KeyCode.BACK_SPACE) {
                change.accept(rest, "");
            } else {
                return;
            }
            event.consume();
        });
        setOnMouseClicked(event -> {
            if (event.getClickCount() == 2) {
                change.accept(rest, "");
            }
        });
        showing = false;
    }

    /** Shows a value without sending it. */
    public void show(double value) {
        showing = true;
        setValue(travel.toPlace(value));
        showing = false;
    }
}
