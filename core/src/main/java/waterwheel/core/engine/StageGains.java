package waterwheel.core.engine;

import waterwheel.core.session.Bus;
import waterwheel.core.session.Channel;
import waterwheel.core.session.Strip;
import waterwheel.core.session.Track;
import waterwheel.core.units.Decibels;

/** The linear gains of a channel's stages. */
public final class StageGains {
    private StageGains() {}

    /** What all clips of a track are multiplied by after they were summed; 1 for a bus. */
    public static double clips(Channel channel) {
        return switch (channel) {
            case Track track -> Decibels.toFactor(track.commonClipGainDb());
            case Bus _ -> 1;
        };
    }

    /** Polarity and trim as one factor; negative while polarity is inverted. */
    public static double trim(Strip strip) {
        return Decibels.toFactor(strip.trimDb()) * (strip.polarityInverted() ? -1 : 1);
    }

    public static double fader(Strip strip) {
        return Decibels.toFactor(strip.faderDb());
    }
}
