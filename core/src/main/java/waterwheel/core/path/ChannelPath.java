package waterwheel.core.path;

import java.util.List;

/**
 * A channel's way from its feed on.
 *
 * @param toFader up to what a pre-fader send hears: the clips' common gain, polarity and trim, inserts
 * @param fader with the VCAs above it
 * @param placement from the channel's planes to left and right
 * @param output open, or closed while a mute or others' solo silences what leaves
 * @param branches the sends that are on
 */
public record ChannelPath(
        List<Step> toFader, Step.Gain fader, Step.Gain placement, Step.Gain output, List<Branch> branches) {
    public ChannelPath {
        toFader = List.copyOf(toFader);
        branches = List.copyOf(branches);
    }
}
