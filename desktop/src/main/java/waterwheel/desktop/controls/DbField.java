package waterwheel.desktop.controls;

import java.util.OptionalDouble;
import java.util.function.DoubleConsumer;
import javafx.scene.control.TextField;
import javafx.scene.control.Tooltip;
import javafx.scene.input.KeyCode;
import javafx.scene.input.KeyEvent;
import waterwheel.core.units.LevelText;

/**
 * A value in dB that is typed or stepped: Enter takes what was typed, Escape puts the value back, Up and Down move by
 * 0.1 dB, with Shift by 1 dB.
 */
public final class DbField extends TextField {
    private final DoubleConsumer change;
    private final String unit;
    private double valueDb;

    /**
     * Makes a field.
     *
     * @param name what the value is, for screen readers and the tooltip
     * @param change takes a new value in dB
     */
    public DbField(String name, DoubleConsumer change) {
        this(name, "dB", change);
    }

    /** Makes a field for a level with a unit of its own, such as dBFS. */
    public DbField(String name, String unit, DoubleConsumer change) {
        this.change = change;
        this.unit = unit;
        getStyleClass().addAll("db-field", "figure");
        setPrefColumnCount(6);
        setAccessibleText(name + " in " + unit);
        setTooltip(new Tooltip(name + ": type a value in " + unit + ", or step with Up and Down (Shift for 1 dB)"));
        addEventFilter(KeyEvent.KEY_PRESSED, this::onKey);
        focusedProperty().subscribe(focused -> {
            if (!focused) {
                commit();
            }
        });
    }

    /** Shows a value in dB. */
    public void setValueDb(double db) {
        valueDb = db;
        boolean fine = Double.isFinite(db) && Math.abs(db * 10 - Math.rint(db * 10)) > 1e-6;
        setText(LevelText.signed(db, fine ? 2 : 1, true) + " " + unit);
    }

    private void onKey(KeyEvent event) {
        double step = event.isShiftDown() ? 1 : 0.1;
        if (event.getCode() == KeyCode.UP) {
            stepBy(step);
        } else if (event.getCode() == KeyCode.DOWN) {
            stepBy(-step);
        } else if (event.getCode() == KeyCode.ENTER) {
            commit();
            selectAll();
        } else if (event.getCode() == KeyCode.ESCAPE) {
            setValueDb(valueDb);
        } else {
            return;
        }
        event.consume();
    }

    private void stepBy(double db) {
        double from = Double.isFinite(valueDb) ? valueDb : -90;
        change.accept(Math.round((from + db) * 100) / 100.0);
    }

    private void commit() {
        OptionalDouble typed = LevelText.parseDb(getText());
        if (typed.isPresent() && Math.abs(typed.getAsDouble() - valueDb) > 1e-9) {
            change.accept(typed.getAsDouble());
        }
        setValueDb(valueDb);
    }
}
