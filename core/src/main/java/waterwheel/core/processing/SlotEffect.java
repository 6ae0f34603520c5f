package waterwheel.core.processing;

import java.util.Arrays;
import org.jspecify.annotations.Nullable;
import waterwheel.core.inserts.Insert;
import waterwheel.core.units.Decibels;

/**
 * A slot at work: its processor with some of the signal as it came, in time with what is processed, and a gain after
 * it. One thread at a time; processing and moving allocate nothing.
 */
public final class SlotEffect implements Effect {
    private final Effect effect;
    private final DelayLine[] dry;
    private final float[][] dryBlock;
    private final Glide wetGain;
    private final Glide dryGain;
    private final float[] wetRow;
    private final float[] dryRow;

    SlotEffect(Effect effect, Insert insert, Site site) {
        this.effect = effect;
        wetGain = new Glide(wet(insert.outputDb(), insert.mix()));
        dryGain = new Glide(dry(insert.outputDb(), insert.mix()));
        dry = new DelayLine[site.planes()];
        for (int p = 0; p < dry.length; p++) {
            dry[p] = new DelayLine(effect.latencyFrames());
        }
        dryBlock = new float[site.planes()][site.maxFrames()];
        wetRow = new float[site.maxFrames()];
        dryRow = new float[site.maxFrames()];
    }

    private static double wet(double outputDb, double mix) {
        return Decibels.toFactor(outputDb) * mix;
    }

    private static double dry(double outputDb, double mix) {
        return Decibels.toFactor(outputDb) * (1 - mix);
    }

    @Override
    public int latencyFrames() {
        return effect.latencyFrames();
    }

    /** Moves the output gain, in dB, and the mix, 0 to 1. */
    public void moveMix(double outputDb, double mix, int frames) {
        moveGains(wet(outputDb, mix), dry(outputDb, mix), frames);
    }

    /** Moves the gains of what is processed and of what is not, linear. */
    public void moveGains(double wet, double dry, int frames) {
        wetGain.to(wet, frames);
        dryGain.to(dry, frames);
    }

    @Override
    public void move(double[] values, int frames) {
        effect.move(values, frames);
    }

    /** Whether {@link #follow} may be called. */
    public boolean follows() {
        return effect instanceof Following;
    }

    /** Processes the next frames in place, while the processor's settings move; the gains stay. */
    public void follow(float[][] signal, float @Nullable [] @Nullable [] key, int frames, Moves moves) {
        process(signal, key, frames, moves);
    }

    @Override
    public void process(float[][] signal, float @Nullable [] @Nullable [] key, int frames) {
        process(signal, key, frames, null);
    }

    private void process(float[][] signal, float @Nullable [] @Nullable [] key, int frames, @Nullable Moves moves) {
        boolean moving = wetGain.moving() || dryGain.moving();
        boolean plain = !moving && wetGain.now() == 1 && dryGain.now() == 0;
        // What is late is remembered also while none of it is heard, because the mix may move.
        boolean remembers = effect.latencyFrames() > 0;
        for (int p = 0; (!plain || remembers) && p < dry.length; p++) {
            dry[p].process(signal[p], dryBlock[p], frames);
        }
        if (moves != null && effect instanceof Following following) {
            following.follow(signal, key, frames, moves);
        } else {
            effect.process(signal, key, frames);
        }
        if (moving) {
            wetGain.fill(wetRow, frames);
            dryGain.fill(dryRow, frames);
            for (int p = 0; p < dry.length; p++) {
                mix(signal[p], dryBlock[p], wetRow, dryRow, frames);
            }
        } else if (!plain) {
            for (int p = 0; p < dry.length; p++) {
                mix(signal[p], dryBlock[p], (float) wetGain.now(), (float) dryGain.now(), frames);
            }
        }
    }

    private static void mix(float[] wet, float[] plain, float wetGain, float dryGain, int frames) {
        for (int i = 0; i < frames; i++) {
            wet[i] = wetGain * wet[i] + dryGain * plain[i];
        }
    }

    private static void mix(float[] wet, float[] plain, float[] wetGains, float[] dryGains, int frames) {
        for (int i = 0; i < frames; i++) {
            wet[i] = wetGains[i] * wet[i] + dryGains[i] * plain[i];
        }
    }

    @Override
    public void reset() {
        wetGain.arrive();
        dryGain.arrive();
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
    public long memoryBytes() {
        return effect.memoryBytes()
                + Arrays.stream(dry).mapToLong(DelayLine::memoryBytes).sum();
    }

    @Override
    public void adopt(Effect other) {
        if (other instanceof SlotEffect before) {
            effect.adopt(before.effect);
            for (int p = 0; p < Math.min(dry.length, before.dry.length); p++) {
                dry[p].adopt(before.dry[p]);
            }
        }
    }

    @Override
    public double reductionDb() {
        return effect.reductionDb();
    }
}
