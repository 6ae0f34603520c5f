package waterwheel.desktop.controls;

import java.util.Map;
import java.util.OptionalDouble;
import java.util.function.DoubleConsumer;
import javafx.scene.control.TextField;
import javafx.scene.control.Tooltip;
import javafx.scene.input.KeyCode;
import javafx.scene.input.KeyCombination;
import javafx.scene.input.KeyEvent;
import waterwheel.core.units.LevelText;

/**
 * A value with a unit that is typed or stepped: Enter takes what was typed, Escape puts the value back, Up and Down move
 * it by a step, with Shift by ten.
 */
public class ValueField extends TextField {
    private final DoubleConsumer change;
    private final String unit;
    private final int decimals;
    private final double step;
    private double value;

    /**
     * Makes a field.
     *
     * @param name what the value is, for screen readers and the tooltip
     * @param unit as it is shown behind the value
     * @param decimals how many are shown
     * @param step by which the keys move the value
     * @param change takes a new value; the owner brings it into range and shows it
     */
    public ValueField(String name, String unit, int decimals, double step, DoubleConsumer change) {
        this.change = change;
        this.unit = unit;
        this.decimals = decimals;
        this.step = step;
        getStyleClass().addAll("db-field", "figure");
        setPrefColumnCount(6);
        setAccessibleText(name + " in " + unit);
        setTooltip(new Tooltip(name + ": type a value in " + unit + ", or step with Up and Down by "
                + LevelText.signed(step, decimals, false) + " (Shift for "
                + LevelText.signed(10 * step, decimals, false)
                + ")"));
        addEventFilter(KeyEvent.KEY_PRESSED, this::onKey);
        focusedProperty().subscribe(focused -> {
            if (!focused) {
                commit();
            }
        });
    }

    /** Shows a value; what is being typed stays. */
    public void setValue(double shown) {
        boolean typing = isFocused() && !getText().equals(text(value) + " " + unit);
        value = shown;
        if (!typing) {
            display();
        }
    }

    private void display() {
        String shown = text(value) + " " + unit;
        // Setting what is there already would cost as much as a new text.
        if (!shown.equals(getText())) {
            setText(shown);
        }
    }

    /** The value in figures, without its unit. */
    protected String text(double shown) {
        return LevelText.signed(shown, decimals, false);
    }

    /** What was typed; empty where it is no value. */
    protected OptionalDouble parse(String typed) {
        return LevelText.parse(typed);
    }

    private void onKey(KeyEvent event) {
        double by = event.isShiftDown() ? 10 * step : step;
        if (event.getCode() == KeyCode.UP) {
            stepBy(by);
        } else if (event.getCode() == KeyCode.DOWN) {
            stepBy(-by);
        } else if (event.getCode() == KeyCode.ENTER) {
            commit();
            selectAll();
        } else if (event.getCode() == KeyCode.ESCAPE) {
            display();
        } else if (event.isShortcutDown() && getText().equals(text(value) + " " + unit)) {
            // Where nothing was typed there is nothing for the field to undo, so the menu's keys go to the menu.
            runAccelerator(event);
            return;
        } else {
            return;
        }
        event.consume();
    }

    private void runAccelerator(KeyEvent event) {
        for (Map.Entry<KeyCombination, Runnable> entry :
                getScene().getAccelerators().entrySet()) {
            if (entry.getKey().match(event)) {
                event.consume();
                entry.getValue().run();
                return;
            }
        }
    }

    private void stepBy(double by) {
        double from = Double.isFinite(value) ? value : -90;
        change.accept(Math.round((from + by) * 100) / 100.0);
    }

    private void commit() {
        OptionalDouble typed = parse(getText());
        if (typed.isPresent() && Math.abs(typed.getAsDouble() - value) > 1e-9) {
            change.accept(typed.getAsDouble());
        }
        display();
    }
}
