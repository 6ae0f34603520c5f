package waterwheel.core.playback;

import java.util.Arrays;
import java.util.List;
import waterwheel.core.metering.PeakScan;

/** Meters of an interface's inputs, and a guard against what howls. The playing thread hears, any other may read. */
final class LiveInputs {
    /** An input that stays above that for so long is fed by itself, or broken by what is before it. */
    private static final float HOWL = 0.89f;

    private static final double HOWL_SECONDS = 0.3;

    private final int sampleRateHz;
    private final int[] loudFrames;
    private final PeakScan scan = new PeakScan();
    private volatile List<ChannelMeter> meters;

    LiveInputs(int inputs, int sampleRateHz) {
        this.sampleRateHz = sampleRateHz;
        loudFrames = new int[inputs];
        meters = fresh();
    }

    private List<ChannelMeter> fresh() {
        ChannelMeter[] all = new ChannelMeter[loudFrames.length];
        Arrays.setAll(all, p -> new ChannelMeter(sampleRateHz, 1, 1));
        return List.of(all);
    }

    /** A meter for each input, in their order. */
    List<ChannelMeter> meters() {
        return meters;
    }

    /** Begins all meters anew. */
    void reset() {
        meters = fresh();
    }

    /** Hears a block; true where an input has been at full scale for so long that listening to it must end. */
    boolean hear(float[][] in, long at, int frames) {
        List<ChannelMeter> now = meters;
        boolean howls = false;
        for (int p = 0; p < in.length; p++) {
            now.get(p).hear(in, p, at, frames);
            loudFrames[p] = scan.loudest(in[p], 0, frames) >= HOWL ? loudFrames[p] + frames : 0;
            howls |= loudFrames[p] > HOWL_SECONDS * sampleRateHz;
        }
        return howls;
    }
}
