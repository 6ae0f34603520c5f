package waterwheel.core.engine;

import java.util.function.Predicate;
import waterwheel.core.session.Track;

/**
 * What a stem's plan has of a session.
 *
 * @param includes the tracks that sound in it
 * @param sharesGain whether what turns a bus up or down does it by the gain that the whole session asks for, so that stems
 *     add up to the mix; else by what it finds in the stem alone
 */
public record StemPart(Predicate<Track> includes, boolean sharesGain) {
    /** Nothing but what the processors of buses hear of the whole session. */
    public static StemPart ofGains() {
        return new StemPart(track -> false, true);
    }
}
