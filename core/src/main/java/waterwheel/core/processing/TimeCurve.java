package waterwheel.core.processing;

import java.util.ArrayList;
import java.util.List;
import waterwheel.core.inserts.Processor;
import waterwheel.core.inserts.ProcessorKind;

/** What comes out of echoes and reverbs after one short sound, over time; for drawing. */
public final class TimeCurve {
    /** Where a tail counts as gone: as in the reverberation time of ISO 3382-1. */
    public static final double GONE_DB = -60;

    private static final int MOST_ECHOES = 400;

    private TimeCurve() {}

    /**
     * An echo.
     *
     * @param seconds after the sound
     * @param db against the sound, at low frequencies, which the damping leaves alone
     */
    public record Echo(double seconds, double db) {}

    /** The echoes of a delay until they are gone, at least the first one. */
    public static List<Echo> echoes(Processor delay) {
        checkKind(delay, Delay.KIND);
        double time = delay.value("timeMs") / 1_000;
        double lossDb = -20 * Math.log10(delay.value("feedbackPercent") / 100);
        List<Echo> echoes = new ArrayList<>();
        double db = 0;
        for (int i = 1; db > GONE_DB && i <= MOST_ECHOES; i++) {
            echoes.add(new Echo(i * time, db));
            db -= lossDb;
        }
        return echoes;
    }

    /**
     * By how many dB a second a reverb's tail falls at a frequency: at each pass a line loses its part of the decay
     * time's 60 dB, and what its low-pass takes; the lines are mixed, so that the sum of the losses counts against the
     * sum of the lengths (Jot, Chaigne, 90th AES Convention, 1991).
     */
    public static double decayDbPerSecond(Processor reverb, double hertz, int sampleRateHz) {
        checkKind(reverb, Reverb.KIND);
        double pole = ReverbEffect.dampingPole(reverb.value("dampingHz"), sampleRateHz);
        double w = 2 * Math.PI * hertz / sampleRateHz;
        double power = (1 - pole) * (1 - pole) / (1 - 2 * pole * Math.cos(w) + pole * pole);
        int[] lengths = ReverbEffect.lineFrames(reverb.value("sizePercent"), sampleRateHz);
        double seconds = 0;
        for (int length : lengths) {
            seconds += (double) length / sampleRateHz;
        }
        return -GONE_DB / reverb.value("decaySeconds") - lengths.length * 10 * Math.log10(power) / seconds;
    }

    /**
     * A reverb's tail against its loudest at a frequency, in dB; negative infinity before the pre-delay has passed.
     *
     * @param seconds after the sound
     */
    public static double tailDb(Processor reverb, double seconds, double hertz, int sampleRateHz) {
        double begun = seconds - reverb.value("preDelayMs") / 1_000;
        return begun < 0 ? Double.NEGATIVE_INFINITY : -begun * decayDbPerSecond(reverb, hertz, sampleRateHz);
    }

    /** How long a delay's echoes or a reverb's tail are there, in seconds. */
    public static double lastingSeconds(Processor settings) {
        return settings.kind().equals(Delay.KIND)
                ? echoes(settings).getLast().seconds()
                : settings.value("preDelayMs") / 1_000 + settings.value("decaySeconds");
    }

    private static void checkKind(Processor settings, ProcessorKind expected) {
        if (!settings.kind().equals(expected)) {
            throw new IllegalArgumentException("settings: " + settings.kind() + " (expected: " + expected + ")");
        }
    }
}
