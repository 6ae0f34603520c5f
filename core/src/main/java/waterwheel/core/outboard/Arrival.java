package waterwheel.core.outboard;

import java.util.ArrayList;
import java.util.Arrays;
import java.util.List;
import waterwheel.core.rack.LoopTiming;

/** Where a response has its largest magnitude, between samples too. */
final class Arrival {
    /** What lies this close before the largest may be a filter's own beginning. */
    private static final int GUARD = 256;

    private static final int BACKGROUND = 4_096;
    private static final int PICTURE_BEFORE = 64;
    private static final int PICTURE = 512;
    private static final int POINTS_AN_OCTAVE = 12;
    /** The median magnitude of normally distributed noise, as a part of its standard deviation. */
    private static final double MEDIAN = 0.6745;
    /** No answer is believed to stand out further than by 180 dB. */
    private static final double LEAST_SPREAD = 1e-9;

    private final Spectrum response;
    private final double[] impulse;
    private final double frame;
    private final double value;
    private final double confidenceDb;

    Arrival(Spectrum response) {
        this.response = response;
        impulse = response.signal();
        int at = 0;
        for (int i = 1; i < impulse.length; i++) {
            if (Math.abs(impulse[i]) > Math.abs(impulse[at])) {
                at = i;
            }
        }
        double sign = Math.signum(impulse[at]);
        frame = Math.max(0, largest(response, at, sign));
        value = response.at(frame);
        double[] before = new double[BACKGROUND];
        for (int i = 0; i < BACKGROUND; i++) {
            before[i] = Math.abs(impulse[Math.floorMod(at - GUARD - BACKGROUND + i, impulse.length)]);
        }
        Arrays.sort(before);
        double spread = before[BACKGROUND / 2] / MEDIAN;
        confidenceDb =
                value == 0 ? 0 : 20 * Math.log10(Math.abs(value) / Math.max(spread, LEAST_SPREAD * Math.abs(value)));
    }

    /** When, in frames from the period's beginning. */
    double frame() {
        return frame;
    }

    /** The response there, with its sign. */
    double value() {
        return value;
    }

    /** How far it stands out of the 4,096 frames before it. */
    double confidenceDb() {
        return confidenceDb;
    }

    /** The largest value near a sample, by golden section: between the samples beside it there is one hill. */
    private static double largest(Spectrum response, int at, double sign) {
        double ratio = (Math.sqrt(5) - 1) / 2;
        double low = at - 1;
        double high = at + 1;
        double left = high - ratio * (high - low);
        double right = low + ratio * (high - low);
        double atLeft = sign * response.at(left);
        double atRight = sign * response.at(right);
        while (high - low > 1e-4) {
            if (atLeft > atRight) {
                high = right;
                right = left;
                atRight = atLeft;
                left = high - ratio * (high - low);
                atLeft = sign * response.at(left);
            } else {
                low = left;
                left = right;
                atLeft = atRight;
                right = low + ratio * (high - low);
                atRight = sign * response.at(right);
            }
        }
        return (low + high) / 2;
    }

    /** The gain between two frequencies in dB, by power. */
    double gainDb(double fromHz, double toHz, int rate) {
        int from = Math.max(1, (int) Math.ceil(fromHz * response.frames() / rate));
        int to = Math.min(response.frames() / 2 - 1, Math.max(from, (int) (toHz * response.frames() / rate)));
        double sum = 0;
        for (int k = from; k <= to; k++) {
            sum += response.magnitude(k) * response.magnitude(k);
        }
        return 10 * Math.log10(sum / (to - from + 1));
    }

    /** @param scale what the response is to be multiplied by, linear */
    LoopAnswer timed(LoopTiming timing, double scale, int rate) {
        int first = (int) Math.floor(frame) - PICTURE_BEFORE;
        List<Double> picture = new ArrayList<>();
        for (int i = 0; i < PICTURE; i++) {
            picture.add(scale * impulse[Math.floorMod(first + i, impulse.length)]);
        }
        List<LoopAnswer.Gain> gains = new ArrayList<>();
        double half = Math.pow(2, 0.5 / POINTS_AN_OCTAVE);
        for (double hertz = 20; hertz < 0.46 * rate; hertz *= half * half) {
            gains.add(new LoopAnswer.Gain(hertz, gainDb(hertz / half, hertz * half, rate) + 20 * Math.log10(scale)));
        }
        int latency = (int) Math.floor(timing.latencyFrames());
        return new LoopAnswer.Timed(timing, picture, latency - PICTURE_BEFORE, gains);
    }
}
