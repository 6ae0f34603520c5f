package waterwheel.core.audiofile;

import java.util.ArrayList;
import java.util.List;

/**
 * The loudspeaker that a channel of a file is made for, in the order of the bits of a WAV file's channel mask
 * (WAVEFORMATEXTENSIBLE), with where it stands in degrees from the front, to the left or to the right.
 */
public enum Speaker {
    FRONT_LEFT("L", 30, false),
    FRONT_RIGHT("R", 30, false),
    FRONT_CENTRE("C", 0, false),
    LOW_FREQUENCY("LFE", 0, false),
    BACK_LEFT("Lb", 110, false),
    BACK_RIGHT("Rb", 110, false),
    FRONT_LEFT_OF_CENTRE("Lc", 15, false),
    FRONT_RIGHT_OF_CENTRE("Rc", 15, false),
    BACK_CENTRE("Cb", 180, false),
    SIDE_LEFT("Ls", 90, false),
    SIDE_RIGHT("Rs", 90, false),
    TOP_CENTRE("T", 0, true),
    TOP_FRONT_LEFT("Ltf", 30, true),
    TOP_FRONT_CENTRE("Ctf", 0, true),
    TOP_FRONT_RIGHT("Rtf", 30, true),
    TOP_BACK_LEFT("Ltb", 110, true),
    TOP_BACK_CENTRE("Ctb", 180, true),
    TOP_BACK_RIGHT("Rtb", 110, true);

    /** What a file means that does not say it, by its number of channels (RFC 9639, section 9.1.3). */
    private static final List<List<Speaker>> USUAL = List.of(
            List.of(FRONT_CENTRE),
            List.of(FRONT_LEFT, FRONT_RIGHT),
            List.of(FRONT_LEFT, FRONT_RIGHT, FRONT_CENTRE),
            List.of(FRONT_LEFT, FRONT_RIGHT, BACK_LEFT, BACK_RIGHT),
            List.of(FRONT_LEFT, FRONT_RIGHT, FRONT_CENTRE, BACK_LEFT, BACK_RIGHT),
            List.of(FRONT_LEFT, FRONT_RIGHT, FRONT_CENTRE, LOW_FREQUENCY, BACK_LEFT, BACK_RIGHT),
            List.of(FRONT_LEFT, FRONT_RIGHT, FRONT_CENTRE, LOW_FREQUENCY, BACK_CENTRE, SIDE_LEFT, SIDE_RIGHT),
            List.of(
                    FRONT_LEFT,
                    FRONT_RIGHT,
                    FRONT_CENTRE,
                    LOW_FREQUENCY,
                    BACK_LEFT,
                    BACK_RIGHT,
                    SIDE_LEFT,
                    SIDE_RIGHT));

    private final String label;
    private final int degrees;
    private final boolean high;

    Speaker(String label, int degrees, boolean high) {
        this.label = label;
        this.degrees = degrees;
        this.high = high;
    }

    /** A short name, for tracks and documents. */
    public String label() {
        return label;
    }

    /** How far it stands from the front, 0 to 180 degrees, to whichever side. */
    public int degrees() {
        return degrees;
    }

    /** Whether it stands above the listener, 30 degrees and more. */
    public boolean high() {
        return high;
    }

    /** The speakers of a file that names none; empty for more than eight channels, which mean nothing by themselves. */
    public static List<Speaker> usual(int channels) {
        return channels <= USUAL.size() ? USUAL.get(channels - 1) : List.of();
    }

    /**
     * The speakers of a channel mask, in the order of the channels.
     *
     * @return the usual ones where the mask does not name as many as there are channels
     */
    static List<Speaker> ofMask(long mask, int channels) {
        List<Speaker> named = new ArrayList<>();
        Speaker[] inMaskOrder = values();
        for (int bit = 0; bit < inMaskOrder.length; bit++) {
            if (((mask >> bit) & 1) == 1) {
                named.add(inMaskOrder[bit]);
            }
        }
        boolean whole = named.size() == channels && Long.bitCount(mask) == channels;
        return whole ? List.copyOf(named) : usual(channels);
    }
}
