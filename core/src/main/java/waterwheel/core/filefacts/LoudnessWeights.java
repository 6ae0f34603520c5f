package waterwheel.core.filefacts;

import java.util.List;
import waterwheel.core.audiofile.Speaker;

/**
 * What each channel's power counts in the loudness of all (ITU-R BS.1770-5, Annex 3, Table 4): 1.41 beside and behind
 * the listener from 60 to 120 degrees, 1 elsewhere, and nothing for low-frequency channels.
 */
final class LoudnessWeights {
    private static final double BESIDE = 1.41;
    private static final int BESIDE_FROM_DEGREES = 60;
    private static final int BESIDE_TO_DEGREES = 120;

    private LoudnessWeights() {}

    /** By channel. */
    static double[] of(List<Speaker> speakers) {
        return speakers.stream()
                .mapToDouble(speaker -> weight(speaker, speakers))
                .toArray();
    }

    private static double weight(Speaker speaker, List<Speaker> all) {
        if (speaker == Speaker.LOW_FREQUENCY) {
            return 0;
        }
        // A back pair stands at 110 degrees, but at 135 where a side pair stands before it.
        boolean back = speaker == Speaker.BACK_LEFT || speaker == Speaker.BACK_RIGHT;
        boolean behindSides = back && all.contains(Speaker.SIDE_LEFT);
        boolean beside = speaker.degrees() >= BESIDE_FROM_DEGREES && speaker.degrees() <= BESIDE_TO_DEGREES;
        return beside && !speaker.high() && !behindSides ? BESIDE : 1;
    }
}
