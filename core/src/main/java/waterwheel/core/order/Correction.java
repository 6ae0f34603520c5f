package waterwheel.core.order;

import java.util.Optional;
import waterwheel.core.inserts.Processor;
import waterwheel.core.processing.Equaliser;
import waterwheel.core.session.Strip;
import waterwheel.core.units.Ranges;

/**
 * What one part of one song is corrected by when it is heard and delivered.
 *
 * @param gainDb after the equaliser, -48 to +48 dB
 * @param equaliser settings of an {@link Equaliser}; empty for none
 */
public record Correction(double gainDb, Optional<Processor> equaliser) {
    public static final double LIMIT_DB = Strip.TRIM_LIMIT_DB;

    /** As it is. */
    public static final Correction NONE = new Correction(0, Optional.empty());

    public Correction {
        gainDb = Ranges.checked("gainDb", gainDb, -LIMIT_DB, LIMIT_DB);
        equaliser.filter(one -> !one.kind().equals(Equaliser.KIND)).ifPresent(one -> {
            throw new IllegalArgumentException("equaliser: " + one.kind().label() + " (expected: an equaliser)");
        });
    }

    /** Returns the correction with another gain; beyond its range it stops at the end. */
    public Correction withGainDb(double value) {
        return new Correction(Math.clamp(value, -LIMIT_DB, LIMIT_DB), equaliser);
    }

    public Correction withEqualiser(Optional<Processor> value) {
        return new Correction(gainDb, value);
    }
}
