package waterwheel.desktop.controls;

import java.util.function.DoubleConsumer;
import waterwheel.core.units.LevelText;

/** A level or gain that is typed, or stepped by 0.1 dB; with its sign, and with hundredths where it has some. */
public final class DbField extends ValueField {
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
        super(name, unit, 1, 0.1, change);
    }

    @Override
    protected String text(double db) {
        boolean fine = Double.isFinite(db) && Math.abs(db * 10 - Math.rint(db * 10)) > 1e-6;
        return LevelText.signed(db, fine ? 2 : 1, true);
    }
}
