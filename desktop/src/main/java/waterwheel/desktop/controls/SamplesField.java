package waterwheel.desktop.controls;

import java.util.Locale;
import java.util.OptionalDouble;
import java.util.function.DoubleConsumer;
import java.util.function.IntSupplier;
import waterwheel.core.units.LevelText;

/** A time in samples that may be typed in milliseconds too, as {@code 1.5 ms}; steps are of one sample. */
public final class SamplesField extends ValueField {
    private final IntSupplier rateHz;

    /**
     * Makes a field.
     *
     * @param rateHz the rate that a sample counts at
     * @param change takes a new value in samples
     */
    public SamplesField(String name, IntSupplier rateHz, DoubleConsumer change) {
        super(name, "samples", 2, 1, change);
        this.rateHz = rateHz;
        Hint.on(this, Hint.of(this) + ". A number with ms behind it is milliseconds.");
    }

    @Override
    protected OptionalDouble parse(String typed) {
        String text = typed.strip().toLowerCase(Locale.ROOT);
        if (!text.endsWith("ms")) {
            return super.parse(typed);
        }
        OptionalDouble milliseconds = LevelText.parse(text.substring(0, text.length() - 2));
        return milliseconds.isPresent()
                ? OptionalDouble.of(milliseconds.getAsDouble() * rateHz.getAsInt() / 1_000)
                : milliseconds;
    }
}
