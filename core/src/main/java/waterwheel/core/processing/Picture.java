package waterwheel.core.processing;

import java.util.List;
import java.util.function.DoubleUnaryOperator;

/** What a processor's panel draws of it. */
public sealed interface Picture {
    /** Nothing. */
    record None() implements Picture {}

    /** Gain in dB by frequency in Hz. */
    record ByFrequency(DoubleUnaryOperator gainDb) implements Picture {}

    /**
     * What comes out for a steady level, in dBFS; a line for each of several bands.
     *
     * @param legend which line is which; empty for one
     */
    record ByLevel(List<DoubleUnaryOperator> outputDb, String legend) implements Picture {
        public ByLevel {
            outputDb = List.copyOf(outputDb);
        }
    }

    /** Echoes of one short sound. */
    record Echoes(double lastingSeconds, List<TimeCurve.Echo> echoes) implements Picture {
        public Echoes {
            echoes = List.copyOf(echoes);
        }
    }

    /**
     * The tail after one short sound, in dB by seconds.
     *
     * @param lowDb at low frequencies
     * @param highDb at a high one
     * @param highHz which
     */
    record Tail(double lastingSeconds, DoubleUnaryOperator lowDb, DoubleUnaryOperator highDb, double highHz)
            implements Picture {}

    /** The level of the response's file, after a pre-delay. */
    record OfResponse(double afterSeconds) implements Picture {}

    /** Linear gains between the sides. */
    record Sides(double leftToLeft, double rightToLeft, double leftToRight, double rightToRight) implements Picture {}

    /**
     * The gain over a steady sound that begins at 0 and ends, in dB by seconds.
     *
     * @param seconds how much is drawn
     * @param endsSeconds when the sound ends
     * @param edgeDb how far the scale goes up and down
     */
    record OverBurst(double seconds, double endsSeconds, double edgeDb, DoubleUnaryOperator gainDb)
            implements Picture {}
}
