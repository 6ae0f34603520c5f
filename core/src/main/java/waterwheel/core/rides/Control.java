package waterwheel.core.rides;

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
}
