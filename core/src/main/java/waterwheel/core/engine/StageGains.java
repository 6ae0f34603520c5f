package waterwheel.core.engine;

import waterwheel.core.routing.Faders;
import waterwheel.core.session.Bus;
import waterwheel.core.session.Channel;
import waterwheel.core.session.Session;
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

    /** From a channel's first signal to behind its trim: the gain that all clips share, polarity and trim. */
    public static double toTrim(Channel channel) {
        return clips(channel) * trim(channel.strip());
    }

    /** The fader with all VCAs above it. */
    public static double fader(Session session, Channel channel) {
        return Decibels.toFactor(Faders.effectiveDb(session, channel));
    }

    /** The fader with all VCAs above it, where those of a whole session have been looked up. */
    public static double fader(Faders faders, Channel channel) {
        return Decibels.toFactor(faders.effectiveDb(channel));
    }

    /** From a channel's first signal to the end of its inserts, as far as that is a mere gain: 1 behind inserts. */
    public static double beforeFader(Channel channel) {
        return channel.strip().activeInserts().isEmpty() ? toTrim(channel) : 1;
    }
}
