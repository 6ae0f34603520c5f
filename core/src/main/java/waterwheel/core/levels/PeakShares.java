package waterwheel.core.levels;

import java.util.Comparator;
import java.util.List;
import waterwheel.core.session.ChannelId;

/**
 * Who fills a bus's peak: each input's signed share of that one sample, and of that what fills the inputs, down to tracks.
 *
 * @param bus the bus
 * @param atSeconds where in the song the sample is
 * @param peak that sample, signed, linear
 * @param links every link that the peak comes by, those of the bus's own inputs among them
 */
public record PeakShares(ChannelId bus, double atSeconds, double peak, List<Link> links) {
    /** An input's share of the sample, signed, linear: all shares add up to the peak. */
    public record Share(ChannelId from, double value) {}

    /**
     * What comes by one link.
     *
     * @param part of the peak, signed, 1 for all of it: those of all links into the bus add up to 1, and those into one of
     *     its inputs to that input's part. Behind gains alone it is what the peak would lack without the link; where a
     *     processor lies between, what it was made of at that moment
     */
    public record Link(ChannelId from, ChannelId to, double part) {}

    public PeakShares {
        links = List.copyOf(links);
    }

    /** What the bus's own inputs add to the sample, the largest first. */
    public List<Share> shares() {
        return links.stream()
                .filter(link -> link.to().equals(bus))
                .map(link -> new Share(link.from(), link.part() * peak))
                .sorted(Comparator.comparingDouble(share -> -Math.abs(share.value())))
                .toList();
    }
}
