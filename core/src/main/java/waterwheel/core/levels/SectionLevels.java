package waterwheel.core.levels;

import java.util.Map;
import waterwheel.core.session.ChannelId;
import waterwheel.core.session.Section;

/**
 * What is known of the levels within one section of the song, to whole steps of 10 ms; true peaks are not.
 *
 * @param channels by channel; absent while pending
 */
public record SectionLevels(Section section, Map<ChannelId, ChannelLevels> channels) {
    public SectionLevels {
        channels = Map.copyOf(channels);
    }
}
