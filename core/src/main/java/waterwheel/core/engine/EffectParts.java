package waterwheel.core.engine;

import java.util.Arrays;
import waterwheel.core.processing.Effect;
import waterwheel.core.processing.Effects;
import waterwheel.core.processing.Processors;
import waterwheel.core.processing.Site;
import waterwheel.core.processing.SlotEffect;

/**
 * A processor of a run: one effect for all planes or, where planes do not hear each other, one for each, so that threads
 * can share them. A part is worked on by one thread at a time.
 */
final class EffectParts {
    private final Signal.Processed processed;
    private final Site site;
    private final Effect[] effects;
    private final SongStart[] starts;

    /**
     * Starts a processor.
     *
     * @param site where it works, with all planes
     * @param late by how many frames its input is late
     */
    EffectParts(Signal.Processed processed, Site site, int late) {
        this.processed = processed;
        this.site = site;
        boolean apart = Processors.of(processed.insert().processor().kind()).planesApart();
        effects = new Effect[apart ? site.planes() : 1];
        Arrays.setAll(effects, part -> start(part, site.maxFrames()));
        starts = new SongStart[effects.length];
        Arrays.setAll(starts, part -> new SongStart(effects[part], late, planes(), site.maxFrames()));
    }

    private Effect start(int part, int maxFrames) {
        Site of = (effects.length == 1 ? site : site.plane(part)).withMaxFrames(maxFrames);
        SlotEffect started = Effects.start(processed.insert(), of);
        return processed.insert().rides().anyActive()
                ? new RiddenEffect(started, new InsertRides(processed.insert()), planes(), maxFrames)
                : started;
    }

    int count() {
        return effects.length;
    }

    /** How many planes a part has. */
    int planes() {
        return site.planes() / effects.length;
    }

    /** The planes of a signal that belong to a part. */
    float[][] of(int part, float[][] signal) {
        return Arrays.copyOfRange(signal, part * planes(), (part + 1) * planes());
    }

    Effect effect(int part) {
        return effects[part];
    }

    SongStart start(int part) {
        return starts[part];
    }

    /** A part as it stands, to go on from. */
    Effect copy(int part) {
        Effect copy = start(part, 1);
        copy.adopt(effects[part]);
        return copy;
    }

    /** Forgets all that came before. */
    void reset() {
        for (Effect effect : effects) {
            effect.reset();
        }
    }

    /** Tells where the engine goes on. */
    void seek(long engineFrame) {
        for (SongStart start : starts) {
            start.seek(engineFrame);
        }
    }

    /** Goes on from where another one stands, as far as they are alike. */
    void adopt(EffectParts other) {
        for (int part = 0; part < Math.min(effects.length, other.effects.length); part++) {
            effects[part].adopt(other.effects[part]);
        }
    }

    /** By how much it turns down now, in dB; of parts that which does most. */
    double reductionDb() {
        double most = 0;
        for (Effect effect : effects) {
            most = Math.max(most, effect.reductionDb());
        }
        return most;
    }
}
