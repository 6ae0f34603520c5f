package waterwheel.core.simulation;

import java.util.List;
import java.util.Map;
import waterwheel.core.rack.Knob;

/**
 * A part of a unit's way from its input to its output.
 *
 * @param kind what it does
 * @param settings by name, in the unit that the name ends in
 */
record UnitPart(Kind kind, Map<String, UnitSetting> settings) {
    /** What parts there are. */
    enum Kind {
        /** {@code db}: turns up or down. */
        GAIN,
        /** {@code thresholdDbu}, {@code ratio}, {@code attackMs}, {@code releaseMs}: turns down what is loud. */
        LEVELLER,
        /** {@code driveDb}, {@code ceilingDbu}: bends the signal at a ceiling, more the higher it is driven. */
        DRIVE,
        /** {@code lowHz}, {@code highHz}: lets through what lies between. */
        BAND,
        /** {@code hz}, {@code db}, {@code q}: a bell. */
        BELL,
        /** {@code hz}, {@code db}: a shelf from there down. */
        LOW_SHELF,
        /** {@code hz}, {@code db}: a shelf from there up. */
        HIGH_SHELF,
        /** {@code seconds}, {@code mix}: two springs. */
        SPRINGS
    }

    double value(String name, List<Knob> knobs) {
        UnitSetting setting = settings.get(name);
        if (setting == null) {
            throw new IllegalArgumentException("name: '" + name + "' (expected: a setting of " + kind + ")");
        }
        return setting.value(knobs);
    }
}
