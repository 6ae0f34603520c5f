package waterwheel.core.processing;

import static waterwheel.core.inserts.Parameter.built;
import static waterwheel.core.inserts.Parameter.choice;

import waterwheel.core.inserts.Processor;
import waterwheel.core.inserts.ProcessorKind;

/**
 * A way out of the computer, through a unit and back. What happens out there is nobody's to compute; here what came back
 * is put in time with what did not leave.
 *
 * <p>It is late by the loop's latency and the offset set by hand. To the sample, the whole number of frames next to that
 * is made up for; to its fraction, the next larger one is, and what comes back waits for the rest in a fractional delay.
 */
public final class HardwareLoop implements Descriptor {
    public static final ProcessorKind KIND = ProcessorKind.of(
                    "hardware",
                    "Hardware loop",
                    built("offsetFrames", "Offset", "samples", -10_000, 10_000, 0),
                    choice("polarity", "Polarity", 0, "as it comes", "inverted"),
                    choice("alignment", "In time to", 0, "the sample", "its fraction"))
            .withLoop();

    @Override
    public ProcessorKind kind() {
        return KIND;
    }

    /** By how many frames what comes back is late, with the offset; 0 or more. */
    public static double lateFrames(Processor settings) {
        return Math.max(0, settings.loop().latencyFrames() + settings.value("offsetFrames"));
    }

    /** The whole number of frames that is made up for by having everything else wait. */
    public static int wholeFrames(Processor settings) {
        double late = lateFrames(settings);
        return (int) (fine(settings) ? Math.ceil(late) : Math.rint(late));
    }

    /** For how long what comes back still waits, in frames from 0 to 1. */
    static double restFrames(Processor settings) {
        return fine(settings) ? wholeFrames(settings) - lateFrames(settings) : 0;
    }

    private static boolean fine(Processor settings) {
        return settings.choice("alignment") == 1;
    }

    /** What turns the polarity back: 1 or -1. */
    public static double sign(Processor settings) {
        return settings.choice("polarity") == 1 ? -1 : 1;
    }

    /** By how much bringing it in time makes it later still. */
    public static int fineFrames(Processor settings) {
        return FineDelay.latencyFrames(restFrames(settings));
    }

    @Override
    public int latencyFrames(Processor settings, int sampleRateHz) {
        return wholeFrames(settings) + fineFrames(settings);
    }

    /** What is started is only the wait for the rest. */
    @Override
    public Effect start(Processor settings, Site site) {
        return new RestEffect(restFrames(settings), site);
    }

    @Override
    public boolean answersToLevel() {
        return true;
    }
}
