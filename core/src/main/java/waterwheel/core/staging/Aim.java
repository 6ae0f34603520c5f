package waterwheel.core.staging;

import waterwheel.core.units.Ranges;

/**
 * How gains are proposed.
 *
 * @param goal what each channel is brought to, before its fader
 * @param together whether the channels get one gain, by which the first of them reaches its goal and none passes it:
 *     their balance stays; otherwise each gets its own
 * @param place which gain is to be moved
 */
public record Aim(Goal goal, boolean together, Place place) {
    /** What a channel is brought to. */
    public sealed interface Goal {}

    /** The target of each channel's kind: sustained by average, percussive by peak. */
    public record ByKind() implements Goal {}

    /**
     * An integrated loudness.
     *
     * @param lufs -70 to 0
     */
    public record Loudness(double lufs) implements Goal {
        public Loudness {
            if (!(lufs >= -70 && lufs <= 0)) {
                throw new IllegalArgumentException("loudnessLufs: " + lufs + " (expected: -70 to 0 LUFS)");
            }
        }
    }

    /**
     * A sample peak, of any kind of track.
     *
     * @param dbfs -80 to 0
     */
    public record Peak(double dbfs) implements Goal {
        public static final double LEAST_DBFS = -80;
        public static final double MOST_DBFS = 0;

        public Peak {
            dbfs = Ranges.checked("peakDbfs", dbfs, LEAST_DBFS, MOST_DBFS);
        }
    }

    /** Which gain a proposal moves. */
    public enum Place {
        /** The channel's trim. */
        TRIM,
        /** The gain of each clip, each measured by itself. */
        CLIPS
    }

    /** Each channel to the target of its kind, by its trim. */
    public static final Aim EACH_BY_KIND = new Aim(new ByKind(), false, Place.TRIM);
}
