package waterwheel.core.metering;

/** Gathers one plane's part of a {@link LevelSeries}. One thread at a time; allocates nothing after construction. */
final class PlaneMeter {
    private final int sampleRateHz;
    private final KWeighting weighting;
    private final TruePeakMeter truePeak;
    private final PeakScan scan = new PeakScan();
    final float[] peaks;
    final double[] energies;
    final double[] weightedEnergies;
    private long position;
    private int step;
    private long stepEnd;
    private float peak;
    private long peakFrame = -1;

    PlaneMeter(int sampleRateHz, long frames) {
        this.sampleRateHz = sampleRateHz;
        weighting = new KWeighting(sampleRateHz);
        truePeak = new TruePeakMeter(sampleRateHz);
        int steps = Steps.count(frames, sampleRateHz);
        peaks = new float[steps];
        energies = new double[steps];
        weightedEnergies = new double[steps];
        stepEnd = Steps.firstFrame(1, sampleRateHz);
    }

    void process(float[] samples, int from, int count) {
        truePeak.process(samples, from, count);
        int at = from;
        int end = from + count;
        while (at < end) {
            int part = (int) Math.min(end - at, stepEnd - position);
            gather(samples, at, part);
            at += part;
            position += part;
            if (position == stepEnd) {
                step++;
                stepEnd = Steps.firstFrame(step + 1L, sampleRateHz);
            }
        }
    }

    private void gather(float[] samples, int at, int part) {
        float loudest = scan.loudest(samples, at, part);
        peaks[step] = Math.max(peaks[step], loudest);
        if (loudest > peak) {
            peak = loudest;
            peakFrame = position + PeakScan.indexOf(loudest, samples, at, part) - at;
        }
        energies[step] += energy(samples, at, part);
        weightedEnergies[step] += weighting.energy(samples, at, part);
    }

    /** Sum of squares. Four sums side by side, because one would make every addition wait for the one before. */
    static double energy(float[] samples, int from, int count) {
        double s0 = 0;
        double s1 = 0;
        double s2 = 0;
        double s3 = 0;
        int i = from;
        for (int end = from + count - 3; i < end; i += 4) {
            double a = samples[i];
            double b = samples[i + 1];
            double c = samples[i + 2];
            double d = samples[i + 3];
            s0 += a * a;
            s1 += b * b;
            s2 += c * c;
            s3 += d * d;
        }
        for (int end = from + count; i < end; i++) {
            double a = samples[i];
            s0 += a * a;
        }
        return s0 + s1 + (s2 + s3);
    }

    double truePeak() {
        return truePeak.maximum();
    }

    /** The first frame of the largest magnitude; -1 for silence. */
    long peakFrame() {
        return peakFrame;
    }
}
