package waterwheel.desktop.inserts;

import java.util.function.ToDoubleFunction;
import waterwheel.core.inserts.Insert;
import waterwheel.core.levels.ChannelLevels;
import waterwheel.core.metering.Figures;
import waterwheel.core.processing.Processors;
import waterwheel.core.units.LevelText;

/**
 * The level by which both sides of an insert are compared. What gives out something else than it gets has no loudness to
 * compare.
 */
record Compared(String name, String unit, ToDoubleFunction<Figures> level) {
    private static final Compared LOUDNESS = new Compared("loudness", "LUFS", Figures::integratedLufs);
    private static final Compared AVERAGE = new Compared("average", "dBFS", Figures::averageDbfs);

    static Compared of(Insert insert) {
        return Processors.of(insert.processor().kind()).replaces() ? AVERAGE : LOUDNESS;
    }

    String text(ChannelLevels.Around around) {
        return name + " " + LevelText.level(level.applyAsDouble(around.before()), unit) + " before, "
                + LevelText.level(level.applyAsDouble(around.after()), unit) + " after";
    }

    /** How many dB make the insert's output as loud as its input; not a number where either is not known. */
    double changeDb(ChannelLevels.Around around) {
        return level.applyAsDouble(around.before()) - level.applyAsDouble(around.after());
    }
}
