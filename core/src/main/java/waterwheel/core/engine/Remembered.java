package waterwheel.core.engine;

import java.util.Arrays;
import org.jspecify.annotations.Nullable;
import waterwheel.core.processing.DelayLine;
import waterwheel.core.processing.Effect;

/** What a processor, or a delay, remembers at a frame of a run: another run can go on from there. */
public final class Remembered {
    // By part or plane, each written by the thread that computes it.
    private final @Nullable Effect[] effects;
    private final @Nullable DelayLine[] lines;

    private Remembered(int parts, int planes) {
        effects = new Effect[parts];
        lines = new DelayLine[planes];
    }

    static Remembered ofEffect(int parts) {
        return new Remembered(parts, 0);
    }

    static Remembered ofDelays(int planes) {
        return new Remembered(0, planes);
    }

    void effect(int part, Effect copy) {
        effects[part] = copy;
    }

    void line(int plane, DelayLine copy) {
        lines[plane] = copy;
    }

    /** About how much it takes, in bytes. */
    public long bytes() {
        long all = 0;
        for (Effect effect : effects) {
            all += effect == null ? 0 : effect.memoryBytes();
        }
        for (DelayLine line : lines) {
            all += line == null ? 0 : line.memoryBytes();
        }
        return all;
    }

    /** Whether a run can go on from it: not where a setting was on its way from a jump. */
    public boolean whole() {
        return Arrays.stream(effects).allMatch(Remembered::whole)
                && Arrays.stream(lines).noneMatch(line -> line == null);
    }

    private static boolean whole(@Nullable Effect effect) {
        return effect instanceof RiddenEffect ridden ? ridden.rebuilds() : effect != null;
    }

    /** Has a processor go on from here, once it stands at that frame of the song. */
    void into(EffectParts others) {
        for (int part = 0; part < others.count(); part++) {
            Effect effect = effects[part];
            if (others.effect(part) instanceof RiddenEffect ridden && effect instanceof RiddenEffect before) {
                ridden.goOn(before);
            } else if (effect != null) {
                others.effect(part).adopt(effect);
            }
        }
    }

    void into(DelayLine[] others) {
        for (int p = 0; p < others.length; p++) {
            DelayLine line = lines[p];
            if (line != null) {
                others[p].adopt(line);
            }
        }
    }
}
