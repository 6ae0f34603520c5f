package waterwheel.core.metering;

import java.util.Arrays;

/**
 * Where a {@link SeriesMeter} stood at a frame. Another meter of the same kind goes on from there, to the bit as if it had
 * heard what this one had. Each part is noted by the thread that it belongs to.
 */
public final class MeterNote {
    final float[][] latest;
    final double[] truePeaks;
    final StepEnergies[] filters;
    /** How many parts are noted, by part. */
    private final boolean[] noted;

    long position;
    int settling;
    /** Of the step that the frame lies in, by plane: what was gathered so far. */
    float[] peaks = {};

    double[] energies = {};
    double[] weighted = {};
    double cross;
    float[] highest = {};
    long[] peakFrames = {};

    MeterNote(int sampleRateHz, int pairs, int truePeakPlanes) {
        filters = new StepEnergies[pairs];
        Arrays.setAll(filters, i -> new StepEnergies(sampleRateHz));
        latest = new float[truePeakPlanes][];
        truePeaks = new double[truePeakPlanes];
        noted = new boolean[1 + truePeakPlanes];
    }

    void noted(int part) {
        noted[part] = true;
    }

    /** Whether all parts passed here. */
    public boolean whole() {
        for (boolean one : noted) {
            if (!one) {
                return false;
            }
        }
        return true;
    }
}
