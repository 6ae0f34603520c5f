package waterwheel.core.processing;

import org.jspecify.annotations.Nullable;
import waterwheel.core.inserts.Insert;
import waterwheel.core.units.Decibels;

/** A processor with some of the signal as it came, in time with what is processed, and a gain after it. */
final class MixedEffect implements Effect {
    private final Effect effect;
    private final DelayLine[] dry;
    private final float[][] dryBlock;
    private final float wetGain;
    private final float dryGain;

    MixedEffect(Effect effect, Insert insert, int planes, int maxFrames) {
        this.effect = effect;
        double output = Decibels.toFactor(insert.outputDb());
        wetGain = (float) (output * insert.mix());
        dryGain = (float) (output * (1 - insert.mix()));
        dry = new DelayLine[planes];
        for (int p = 0; p < planes; p++) {
            dry[p] = new DelayLine(effect.latencyFrames(), maxFrames);
        }
        dryBlock = new float[planes][maxFrames];
    }

    @Override
    public int latencyFrames() {
        return effect.latencyFrames();
    }

    @Override
    public void process(float[][] signal, float @Nullable [] @Nullable [] key, int frames) {
        for (int p = 0; p < dry.length; p++) {
            dry[p].process(signal[p], dryBlock[p], frames);
        }
        effect.process(signal, key, frames);
        for (int p = 0; p < dry.length; p++) {
            float[] wet = signal[p];
            float[] plain = dryBlock[p];
            for (int i = 0; i < frames; i++) {
                wet[i] = wetGain * wet[i] + dryGain * plain[i];
            }
        }
    }

    @Override
    public void reset() {
        effect.reset();
        for (DelayLine line : dry) {
            line.reset();
        }
    }

    @Override
    public void seek(long songFrame) {
        effect.seek(songFrame);
    }

    @Override
    public void adopt(Effect other) {
        if (other instanceof MixedEffect mixed) {
            effect.adopt(mixed.effect);
            for (int p = 0; p < Math.min(dry.length, mixed.dry.length); p++) {
                dry[p].adopt(mixed.dry[p]);
            }
        } else {
            effect.adopt(other);
        }
    }

    @Override
    public double reductionDb() {
        return effect.reductionDb();
    }
}
