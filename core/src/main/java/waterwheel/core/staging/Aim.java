package waterwheel.core.staging;

import java.util.OptionalDouble;

/**
 * How gains are proposed.
 *
 * @param loudnessLufs integrated loudness that each channel is brought to, before its fader; empty to go by each
 *     channel's kind: sustained by average, percussive by peak
 * @param together whether the channels get one gain, by which the first of them reaches its target and none passes it:
 *     their balance stays; otherwise each gets its own
 * @param place which gain is to be moved
 */
public record Aim(OptionalDouble loudnessLufs, boolean together, Place place) {
    /** Which gain a proposal moves. */
    public enum Place {
        /** The channel's trim. */
        TRIM,
        /** The gain of each clip, each measured by itself. */
        CLIPS
    }

    /** Each channel to the target of its kind, by its trim. */
    public static final Aim EACH_BY_KIND = new Aim(OptionalDouble.empty(), false, Place.TRIM);

    public Aim {
        if (loudnessLufs.isPresent() && !(loudnessLufs.getAsDouble() >= -70 && loudnessLufs.getAsDouble() <= 0)) {
            throw new IllegalArgumentException(
                    "loudnessLufs: " + loudnessLufs.getAsDouble() + " (expected: -70 to 0 LUFS)");
        }
    }
}
