package waterwheel.core.engine;

import waterwheel.core.session.Strip;
import waterwheel.core.units.Decibels;

/** The linear gains of a strip's stages. */
public final class StageGains {
    private StageGains() {}

    /** Polarity and trim as one factor; negative while polarity is inverted. */
    public static double trim(Strip strip) {
        return Decibels.toFactor(strip.trimDb()) * (strip.polarityInverted() ? -1 : 1);
    }

    public static double fader(Strip strip) {
        return Decibels.toFactor(strip.faderDb());
    }
}
