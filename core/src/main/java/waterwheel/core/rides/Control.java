package waterwheel.core.rides;

import waterwheel.core.units.FaderTravel;

/**
 * Something that can be ridden.
 *
 * @param key its name in the session file, ending in its unit
 * @param name its name on screen
 * @param unit of its value; empty for a ratio or a switch
 * @param least the smallest value that it has; for a fader -90 dB, which is silence
 * @param most the largest
 */
public record Control(String key, String name, String unit, double least, double most, Scale scale) {
    /** At and below this a ridden fader or send is silent, in dB. */
    public static final double SILENT_DB = -90;

    /** A value within the control's range. */
    public double limited(double value) {
        return Math.clamp(value, least, most);
    }

    /** Where a value stands on the control's travel, from 0 to 1: a fader's is finest around 0 dB. */
    public double toPlace(double value) {
        if (isFader()) {
            return FaderTravel.toPlace(value);
        }
        return switch (scale) {
            case SWITCH -> value >= 0.5 ? 1 : 0;
            case OCTAVES -> Math.log(Math.max(value, least) / least) / Math.log(most / least);
            case PLAIN -> (value - least) / (most - least);
        };
    }

    /** The value at a place of the control's travel from 0 to 1; a fader's lowest one is silence. */
    public double toValue(double place) {
        double at = Math.clamp(place, 0, 1);
        if (isFader()) {
            double db = FaderTravel.toDb(at);
            return db <= SILENT_DB ? Double.NEGATIVE_INFINITY : Math.min(db, most);
        }
        return switch (scale) {
            case SWITCH -> at >= 0.5 ? 1 : 0;
            case OCTAVES -> least * Math.pow(most / least, at);
            case PLAIN -> least + at * (most - least);
        };
    }

    /** Whether it goes down to silence. */
    public boolean isFader() {
        return least == SILENT_DB;
    }
}
