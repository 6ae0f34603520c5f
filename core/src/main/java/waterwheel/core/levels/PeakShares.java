package waterwheel.core.levels;

import java.util.ArrayList;
import java.util.Comparator;
import java.util.List;
import waterwheel.core.session.ChannelId;

/**
 * Who fills a bus's peak: each input's signed share of that one sample.
 *
 * @param bus the bus
 * @param atSeconds where in the song its highest sample is
 * @param peak that sample, signed, linear
 * @param shares the largest first
 */
public record PeakShares(ChannelId bus, double atSeconds, double peak, List<Share> shares) {
    /** An input's share of the sample, signed, linear: all shares add up to the peak. */
    public record Share(ChannelId from, double value) {}

    public PeakShares {
        List<Share> sorted = new ArrayList<>(shares);
        sorted.sort(Comparator.comparingDouble((Share share) -> -Math.abs(share.value())));
        shares = List.copyOf(sorted);
    }
}
