package waterwheel.cli;

import picocli.CommandLine.ITypeConverter;
import picocli.CommandLine.TypeConversionException;
import waterwheel.core.order.Target;
import waterwheel.core.staging.Aim;
import waterwheel.core.staging.HoldLevel;
import waterwheel.core.staging.MakeRoom;
import waterwheel.core.stems.LevelPolicy;
import waterwheel.core.stems.StemSettings;

/**
 * Reads a decimal number within a range. Each option that takes a number has a kind of its own here, so that none takes
 * what is no number, or one that nothing can be done with.
 */
abstract class NumberIn implements ITypeConverter<Double> {
    /** A day: longer than any song. */
    private static final double MOST_SECONDS = 86_400;

    private final double least;
    private final double most;
    private final String what;

    /** @param what the number counts, such as {@code dBFS} */
    private NumberIn(double least, double most, String what) {
        this.least = least;
        this.most = most;
        this.what = what;
    }

    @Override
    public Double convert(String text) {
        if (text.matches("[+-]?(\\d{1,12}(\\.\\d*)?|\\.\\d+)")) {
            double value = Double.parseDouble(text);
            if (value >= least && value <= most) {
                return value;
            }
        }
        throw new TypeConversionException(
                "'" + text + "' is not a number of " + what + " from " + plain(least) + " to " + plain(most));
    }

    private static String plain(double value) {
        return value == Math.rint(value) ? Long.toString((long) value) : Double.toString(value);
    }

    /** How long files go on after the song's end. */
    static final class Tail extends NumberIn {
        Tail() {
            super(0, StemSettings.MOST_TAIL_SECONDS, "seconds");
        }
    }

    /** A place in the song. */
    static final class Place extends NumberIn {
        Place() {
            super(0, MOST_SECONDS, "seconds");
        }
    }

    /** How long something goes on in real time. */
    static final class Duration extends NumberIn {
        Duration() {
            super(0.1, MOST_SECONDS, "seconds");
        }
    }

    /** How far channels step back. */
    static final class Depth extends NumberIn {
        Depth() {
            super(MakeRoom.LEAST_DEPTH_DB, MakeRoom.MOST_DEPTH_DB, "dB");
        }
    }

    /** How far a phrase may lie from its channel's own loudness. */
    static final class HeldRange extends NumberIn {
        HeldRange() {
            super(HoldLevel.LEAST_LU, HoldLevel.MOST_LU, "LU");
        }
    }

    /** The level that reads 0 VU. */
    static final class Nominal extends NumberIn {
        Nominal() {
            super(-24, -12, "dBFS");
        }
    }

    /** A peak that tracks are staged to. */
    static final class StagedPeak extends NumberIn {
        StagedPeak() {
            super(-24, 0, "dBFS");
        }
    }

    /** A peak that tracks of any kind are brought to. */
    static final class AnyPeak extends NumberIn {
        AnyPeak() {
            super(Aim.Peak.LEAST_DBFS, Aim.Peak.MOST_DBFS, "dBFS");
        }
    }

    /** A loudness. */
    static final class Loudness extends NumberIn {
        Loudness() {
            super(LevelPolicy.LEAST_LUFS, LevelPolicy.MOST_LUFS, "LUFS");
        }
    }

    /** A loudness that songs are brought to. */
    static final class SongLoudness extends NumberIn {
        SongLoudness() {
            super(Target.LEAST_LUFS, 0, "LUFS");
        }
    }

    /** A peak of a render. */
    static final class Peak extends NumberIn {
        Peak() {
            super(LevelPolicy.LEAST_PEAK_DBFS, LevelPolicy.MOST_PEAK_DBFS, "dBFS");
        }
    }

    /** A headroom. */
    static final class Headroom extends NumberIn {
        Headroom() {
            super(-LevelPolicy.MOST_PEAK_DBFS, -LevelPolicy.LEAST_PEAK_DBFS, "dB");
        }
    }
}
