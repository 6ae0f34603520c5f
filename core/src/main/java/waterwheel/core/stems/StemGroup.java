package waterwheel.core.stems;

import java.util.Set;
import waterwheel.core.captures.StemShare;
import waterwheel.core.session.ChannelId;

/**
 * What a stem is made of.
 *
 * @param id that of the track, the bus or the return that it is, or of the stem that was put together by hand
 * @param tracks that sound in it, up to where the returns that are stems begin
 * @param returns that sound in it with all that is sent to them
 * @param otherReturns that are in other stems with all that is sent to them
 * @param cue whether it is a click or cue, which is no part of the mix
 */
record StemGroup(
        ChannelId id,
        String name,
        Set<ChannelId> tracks,
        Set<ChannelId> returns,
        Set<ChannelId> otherReturns,
        boolean cue) {
    StemGroup {
        tracks = Set.copyOf(tracks);
        returns = Set.copyOf(returns);
        otherReturns = Set.copyOf(otherReturns);
    }

    StemShare share(Treatment treatment) {
        return new StemShare(id, name, tracks, returns, otherReturns, treatment.sharesGain());
    }
}
