package waterwheel.core.processing;

import java.util.ArrayList;
import java.util.List;
import waterwheel.core.inserts.Processor;
import waterwheel.core.units.Decibels;

/** What an equaliser's settings mean: its filters and their response. */
public final class Equalising {
    /** Butterworth: the poles of a fourth-order filter as two second-order ones. */
    private static final double[] FOURTH_ORDER_Q = {0.541_196_1, 1.306_563};

    private static final double SECOND_ORDER_Q = Math.sqrt(0.5);

    private Equalising() {}

    static List<Biquad> filters(Processor settings, int rate) {
        List<Biquad> filters = new ArrayList<>();
        double highPass = settings.value("highPassHz");
        for (double q : slope(settings.choice("highPassSlope"))) {
            filters.add(Biquad.highPass(highPass, q, rate));
        }
        if (settings.value("lowShelfDb") != 0) {
            filters.add(Biquad.lowShelf(settings.value("lowShelfHz"), settings.value("lowShelfDb"), rate));
        }
        for (String bell : List.of("bell1", "bell2")) {
            if (settings.value(bell + "Db") != 0) {
                filters.add(Biquad.bell(
                        settings.value(bell + "Hz"), settings.value(bell + "Q"), settings.value(bell + "Db"), rate));
            }
        }
        if (settings.value("highShelfDb") != 0) {
            filters.add(Biquad.highShelf(settings.value("highShelfHz"), settings.value("highShelfDb"), rate));
        }
        double lowPass = settings.value("lowPassHz");
        for (double q : slope(settings.choice("lowPassSlope"))) {
            filters.add(Biquad.lowPass(lowPass, q, rate));
        }
        return filters;
    }

    private static double[] slope(int choice) {
        return switch (choice) {
            case 0 -> new double[0];
            case 1 -> new double[] {SECOND_ORDER_Q};
            default -> FOURTH_ORDER_Q.clone();
        };
    }

    /** Gain at a frequency in dB, for drawing. */
    public static double responseDb(Processor settings, double hertz, int sampleRateHz) {
        double magnitude = 1;
        for (Biquad filter : filters(settings, sampleRateHz)) {
            magnitude *= filter.magnitude(hertz, sampleRateHz);
        }
        return Decibels.ofFactor(magnitude);
    }
}
