package waterwheel.core.songs;

import java.util.ArrayList;
import java.util.Collection;
import java.util.Collections;
import java.util.List;
import waterwheel.core.order.Part;

/**
 * Which part goes to which channel of one file a song. The same for all songs of a running order, so that it is wired
 * once: what a song has not is silence there.
 *
 * @param lanes in the file's order
 */
public record ChannelPlan(List<Lane> lanes) {
    public static final int LEAST_CHANNELS = 2;
    public static final int MOST_CHANNELS = 8;

    public ChannelPlan {
        lanes = List.copyOf(lanes);
    }

    /**
     * Parts that are heard together.
     *
     * @param planes 2 for a pair of channels; 1 for one channel with half the sum of both sides
     */
    public record Lane(String name, int planes, List<String> parts) {
        public Lane {
            parts = List.copyOf(parts);
        }

        static Lane of(int planes, Collection<Part> parts) {
            List<String> names = parts.stream().map(Part::name).toList();
            return new Lane(names.isEmpty() ? "Nothing" : String.join(", ", names), planes, names);
        }
    }

    /** All music to the left, clicks and cues to the right. */
    public static ChannelPlan sides(List<Part> parts) {
        return of(2, parts);
    }

    /**
     * Lays parts onto channels: music to pairs, in order, the last pair taking what is left; behind it cues, a channel
     * each, on at most half of all. Of two channels music has the left one alone.
     *
     * @param channels 2 to 8
     */
    public static ChannelPlan of(int channels, List<Part> parts) {
        if (channels < LEAST_CHANNELS || channels > MOST_CHANNELS) {
            throw new IllegalArgumentException(
                    "channels: " + channels + " (expected: " + LEAST_CHANNELS + " to " + MOST_CHANNELS + ")");
        }
        List<Part> cues = parts.stream().filter(Part::cue).toList();
        List<Part> music = parts.stream().filter(part -> !part.cue()).toList();
        int pairs = (channels - Math.clamp(cues.size(), 1, channels / 2)) / 2;
        List<Lane> lanes = new ArrayList<>();
        spread(music, pairs == 0 ? List.of(1) : Collections.nCopies(pairs, 2), lanes);
        spread(cues, Collections.nCopies(channels - Math.max(1, 2 * pairs), 1), lanes);
        return new ChannelPlan(lanes);
    }

    /** One part a lane, the last lane taking all that are left. */
    private static void spread(List<Part> parts, List<Integer> widths, List<Lane> lanes) {
        for (int i = 0; i < widths.size(); i++) {
            int from = Math.min(i, parts.size());
            int to = i == widths.size() - 1 ? parts.size() : Math.min(i + 1, parts.size());
            lanes.add(Lane.of(widths.get(i), parts.subList(from, to)));
        }
    }

    /** How many channels the file has. */
    public int channels() {
        return lanes.stream().mapToInt(Lane::planes).sum();
    }
}
