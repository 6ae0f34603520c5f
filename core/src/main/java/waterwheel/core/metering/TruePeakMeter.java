package waterwheel.core.metering;

import java.util.Arrays;

/**
 * True peak of one plane after ITU-R BS.1770-5 Annex 2: the largest magnitude of the signal oversampled to at least
 * 176.4 kHz (4 times at 44.1 and 48 kHz, 2 times at 88.2 and 96 kHz).
 *
 * <p>Interpolation is by {@link TruePeakTaps}. What cannot be a new maximum is not interpolated; the result is the same,
 * to the bit, as if it were. For a stretch of samples, an interpolated value is at most the loudest of them times the
 * sum of the taps' magnitudes; where that does not tell, {@link TruePeakScreen} looks at each point. One thread at a
 * time.
 */
public final class TruePeakMeter {
    private static final int TAPS = TruePeakTaps.TAPS;
    private static final int STRETCH = TruePeakScreen.STRETCH;
    private static final int CHUNK = 8 * STRETCH;

    private final float[][] phases;
    private final TruePeakScreen[] screens;
    /** The most by which interpolation can exceed the loudest sample. */
    private final float mostGain;

    /** The latest samples before those in hand, then these. */
    private final float[] work = new float[TAPS + CHUNK];

    private final TruePeakScreen.Window window = new TruePeakScreen.Window();
    private final PeakScan scan = new PeakScan();
    private double maximum;

    public TruePeakMeter(int sampleRateHz) {
        phases = TruePeakTaps.of(sampleRateHz);
        screens = new TruePeakScreen[phases.length];
        double most = 1;
        for (int p = 0; p < phases.length; p++) {
            screens[p] = new TruePeakScreen(phases[p]);
            most = Math.max(most, screens[p].gain());
        }
        mostGain = (float) most;
    }

    /** The latest samples, as many as the taps reach. */
    float[] latest() {
        return Arrays.copyOf(work, TAPS);
    }

    /** The largest magnitude of what is known so far: of the points up to the last sample. */
    double highest() {
        return maximum;
    }

    /** Goes on from where another stood. */
    void goOn(float[] latest, double highest) {
        System.arraycopy(latest, 0, work, 0, TAPS);
        maximum = highest;
    }

    /** Takes samples, full scale ±1.0. */
    public void process(float[] samples, int from, int count) {
        for (int done = 0; done < count; done += CHUNK) {
            int part = Math.min(CHUNK, count - done);
            System.arraycopy(samples, from + done, work, TAPS, part);
            for (int at = 0; at < part; at += STRETCH) {
                take(TAPS + at, Math.min(STRETCH, part - at));
            }
            System.arraycopy(work, part, work, 0, TAPS);
        }
    }

    /** The largest magnitude so far, linear, as if silence followed. */
    public double maximum() {
        double most = maximum;
        // Let the last samples run through the interpolation, in a copy, so that more may still come.
        float[] rest = new float[2 * TAPS];
        System.arraycopy(work, 0, rest, 0, TAPS);
        for (float[] taps : phases) {
            for (int i = TAPS; i < rest.length; i++) {
                most = Math.max(most, Math.abs(TruePeakTaps.point(taps, rest, i)));
            }
        }
        return most;
    }

    private void take(int from, int count) {
        // Silence before the samples changes no maximum, so that the taps' reach may be looked at with them.
        float near = scan.loudest(work, from - TAPS, count + TAPS);
        maximum = Math.max(maximum, near);
        if (near * mostGain > maximum) {
            window.of(work, from, count);
            for (TruePeakScreen screen : screens) {
                maximum = screen.highest(window, near, maximum);
            }
        }
    }
}
