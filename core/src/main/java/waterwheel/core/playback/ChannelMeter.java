package waterwheel.core.playback;

import waterwheel.core.engine.SignalListener;
import waterwheel.core.metering.PeakScan;
import waterwheel.core.metering.VuMeter;
import waterwheel.core.units.Decibels;

/**
 * What a channel's trim gives out while the song plays: its VU, its highest sample, and where it went over full scale.
 * The playing thread writes, one other may read at any time.
 */
public final class ChannelMeter implements SignalListener {
    /** Overs whose places are kept; later ones are only counted. */
    private static final int MOST_PLACES = 200;
    /** Samples over full scale that are this near to each other are one over. */
    private static final double APART_SECONDS = 0.05;

    private final double gain;
    private final VuMeter[] vus;
    private final PeakScan scan = new PeakScan();
    private final int apartFrames;
    private final long[] places = new long[MOST_PLACES];
    private final float[] peaks = new float[MOST_PLACES];
    private long lastOver = Long.MIN_VALUE / 2;
    private float highest;
    private volatile double vuDbfs = Double.NEGATIVE_INFINITY;
    private volatile double peakDbfs = Double.NEGATIVE_INFINITY;
    private volatile int overs;

    /** @param gain linear, from the signal that is heard to the place that is metered; its sign does not matter */
    ChannelMeter(int sampleRateHz, int planes, double gain) {
        this.gain = Math.abs(gain);
        apartFrames = (int) (APART_SECONDS * sampleRateHz);
        vus = new VuMeter[planes];
        for (int p = 0; p < planes; p++) {
            vus[p] = new VuMeter(sampleRateHz, 0);
        }
    }

    /** Goes on where another meter of the same channel stands, so that a change does not make the needle fall. */
    void adopt(ChannelMeter before) {
        for (int p = 0; p < Math.min(vus.length, before.vus.length); p++) {
            vus[p].adopt(before.vus[p]);
        }
    }

    @Override
    public void hear(float[][] signal, long firstFrame, int frames) {
        hear(signal, 0, firstFrame, frames);
    }

    /** @param first the plane with which the metered ones begin */
    void hear(float[][] signal, int first, long firstFrame, int frames) {
        float loudest = 0;
        double vu = Double.NEGATIVE_INFINITY;
        for (int p = 0; p < vus.length; p++) {
            vus[p].process(signal[first + p], 0, frames);
            vu = Math.max(vu, vus[p].readingVu());
            loudest = Math.max(loudest, scan.loudest(signal[first + p], 0, frames));
        }
        vuDbfs = vu + Decibels.ofFactor(gain);
        if (loudest > highest) {
            highest = loudest;
            peakDbfs = Decibels.ofFactor(loudest * gain);
        }
        if (loudest * gain > 1) {
            for (int p = 0; p < vus.length; p++) {
                findOvers(signal[first + p], firstFrame, frames);
            }
        }
    }

    private void findOvers(float[] plane, long firstFrame, int frames) {
        for (int i = 0; i < frames; i++) {
            float level = (float) (Math.abs(plane[i]) * gain);
            if (level > 1) {
                take(firstFrame + i, level);
            }
        }
    }

    private void take(long frame, float level) {
        int count = overs;
        boolean same = frame >= lastOver - apartFrames && frame <= lastOver + apartFrames;
        lastOver = frame;
        if (same) {
            if (count <= MOST_PLACES) {
                peaks[count - 1] = Math.max(peaks[count - 1], level);
            }
            return;
        }
        if (count < MOST_PLACES) {
            places[count] = frame;
            peaks[count] = level;
        }
        overs = count + 1;
    }

    /** The louder side's reading as the level of the sine that reads so, in dBFS: VU plus the reference. */
    public double vuDbfs() {
        return vuDbfs;
    }

    /** The highest sample since the meter began, dBFS. */
    public double peakDbfs() {
        return peakDbfs;
    }

    /** How often it went over full scale since the meter began. */
    public int overs() {
        return overs;
    }

    /** How many of the overs have their places known, the earliest ones. */
    public int knownPlaces() {
        return Math.min(overs, MOST_PLACES);
    }

    /** The frame of the song at which an over began. */
    public long place(int over) {
        return places[over];
    }

    /** The highest sample of an over, dBFS. */
    public double overPeakDbfs(int over) {
        return Decibels.ofFactor(peaks[over]);
    }
}
