package waterwheel.core.filefacts;

import waterwheel.core.metering.Steps;
import waterwheel.core.metering.VuMeter;

/** VU readings over time. */
public final class VuSeries {
    private final double[] readings;
    private final double highestVu;

    private VuSeries(double[] readings, double highestVu) {
        this.readings = readings;
        this.highestVu = highestVu;
    }

    /** Number of readings; reading i belongs to the end of step i of 10 ms. */
    public int count() {
        return readings.length;
    }

    /** A reading in VU. */
    public double readingVu(int step) {
        return readings[step];
    }

    /** The highest reading at any sample, in VU. */
    public double highestVu() {
        return highestVu;
    }

    static VuSeries louderOf(Gatherer[] sides) {
        double[] most = sides[0].readings;
        double highest = sides[0].meter.highestVu();
        for (int c = 1; c < sides.length; c++) {
            highest = Math.max(highest, sides[c].meter.highestVu());
            for (int i = 0; i < most.length; i++) {
                most[i] = Math.max(most[i], sides[c].readings[i]);
            }
        }
        return new VuSeries(most, highest);
    }

    /** Fills a series for one channel. */
    static final class Gatherer {
        private final VuMeter meter;
        private final int sampleRateHz;
        private final double[] readings;
        private long position;
        private int step;

        Gatherer(VuMeter meter, int sampleRateHz, long frames) {
            this.meter = meter;
            this.sampleRateHz = sampleRateHz;
            readings = new double[Steps.complete(frames, sampleRateHz)];
        }

        void process(float[] data, int count) {
            for (int done = 0; done < count; ) {
                long stepEnd = Steps.firstFrame(step + 1L, sampleRateHz);
                int part = (int) Math.min(count - done, stepEnd - position);
                meter.process(data, done, part);
                done += part;
                position += part;
                if (position == stepEnd) {
                    readings[step++] = meter.readingVu();
                }
            }
        }
    }
}
