package waterwheel.core.engine;

import java.util.Set;
import java.util.function.Predicate;
import waterwheel.core.session.ChannelId;
import waterwheel.core.session.Track;

/**
 * What a stem's plan has of a session.
 *
 * @param includes the tracks that sound in it
 * @param returns buses that sound in it with all that the whole session sends them
 * @param otherReturns buses of which nothing sounds in it, since they are in others with all that they are sent
 * @param sharesGain whether what turns a bus up or down does it by the gain that the whole session asks for, so that stems
 *     add up to the mix; else by what it finds in the stem alone
 */
public record StemPart(
        Predicate<Track> includes, Set<ChannelId> returns, Set<ChannelId> otherReturns, boolean sharesGain) {
    public StemPart {
        returns = Set.copyOf(returns);
        otherReturns = Set.copyOf(otherReturns);
    }
}
