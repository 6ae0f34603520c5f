package waterwheel.desktop.controls;

import java.util.OptionalDouble;
import java.util.function.DoubleConsumer;
import javafx.scene.input.KeyEvent;
import waterwheel.core.units.LevelText;

/**
 * A value with a unit that is typed or stepped: Enter takes what was typed, Escape puts the value back, Up and Down move
 * it by a step, with Shift by ten.
 */
public class ValueField extends TypedField {
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
        Hint.on(
                this,
                name + ": type a value in " + unit + ", or step with Up and Down by "
                        + LevelText.signed(step, decimals, false) + " (Shift for "
                        + LevelText.signed(10 * step, decimals, false)
                        + ")");
    }

    /** Shows a value; what is being typed stays. */
    public void setValue(double shown) {
        value = shown;
        show(text(shown) + " " + unit);
    }

    /** The value in figures, without its unit. */
    protected String text(double shown) {
        return LevelText.signed(shown, decimals, false);
    }

    /** What was typed; empty where it is no value. */
    protected OptionalDouble parse(String typed) {
        return LevelText.parse(typed);
    }

    @Override
    boolean takesKey(KeyEvent event) {
        double by = event.isShiftDown() ? 10 * step : step;
        switch (event.getCode()) {
            case UP -> stepBy(by);
            case DOWN -> stepBy(-by);
            default -> {
                return false;
            }
        }
        return true;
    }

    private void stepBy(double by) {
        double from = Double.isFinite(value) ? value : -90;
        change.accept(Math.round((from + by) * 100) / 100.0);
    }

    @Override
    void take(String typed) {
        OptionalDouble taken = parse(typed);
        if (taken.isPresent() && Math.abs(taken.getAsDouble() - value) > 1e-9) {
            change.accept(taken.getAsDouble());
        }
    }
}
