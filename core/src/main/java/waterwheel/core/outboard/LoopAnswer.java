package waterwheel.core.outboard;

import java.util.List;
import waterwheel.core.rack.LoopTiming;

/** What came back of a way that was timed. */
public sealed interface LoopAnswer {
    /**
     * The way answers.
     *
     * @param impulse what comes back of one sample of full scale, from {@code impulseFrom} frames after it on
     * @param response gain by frequency
     */
    record Timed(LoopTiming timing, List<Double> impulse, int impulseFrom, List<Gain> response) implements LoopAnswer {
        public Timed {
            impulse = List.copyOf(impulse);
            response = List.copyOf(response);
        }
    }

    /**
     * What comes back is another output's signal.
     *
     * @param sendPort that output
     */
    record Crossed(int sendPort) implements LoopAnswer {}

    /** What comes back is so loud that the input clips, however little is sent. */
    record Clipped() implements LoopAnswer {}

    /** Nothing comes back that stands out of the noise. */
    record Nothing() implements LoopAnswer {}

    /** A gain at a frequency. */
    record Gain(double hertz, double db) {}

    /** The answer in words, where it is not a timing; empty where it is. */
    default String inWords(LoopAsk ask) {
        return switch (this) {
            case Timed _ -> "";
            case Crossed(int port) ->
                "What comes back to Input " + ask.returnPort() + " was sent by Output " + port + ", not by Output "
                        + ask.sendPort() + ": are the cables crossed?";
            case Clipped _ ->
                "What comes back to Input " + ask.returnPort()
                        + " clips there: turn down the unit's output or the input's gain.";
            case Nothing _ ->
                "Nothing comes back from Input " + ask.returnPort() + ": is the unit on, is the cable in Output "
                        + ask.sendPort() + "?";
        };
    }
}
