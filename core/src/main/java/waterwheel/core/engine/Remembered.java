package waterwheel.core.engine;

import java.util.Arrays;
import org.jspecify.annotations.Nullable;
import waterwheel.core.processing.DelayLine;
import waterwheel.core.processing.Effect;

/** What a processor, or a delay, remembers at a frame of a run: another run can go on from there. */
public final class Remembered {
    private final @Nullable Effect effect;
    /** By plane, each written by the thread that computes it. */
    private final @Nullable DelayLine[] lines;

    private Remembered(@Nullable Effect effect, int planes) {
        this.effect = effect;
        lines = new DelayLine[planes];
    }

    static Remembered ofEffect(Effect copy) {
        return new Remembered(copy, 0);
    }

    static Remembered ofDelays(int planes) {
        return new Remembered(null, planes);
    }

    void line(int plane, DelayLine copy) {
        lines[plane] = copy;
    }

    /** About how much it takes, in bytes. */
    public long bytes() {
        long all = effect == null ? 0 : effect.memoryBytes();
        for (DelayLine line : lines) {
            all += line == null ? 0 : line.memoryBytes();
        }
        return all;
    }

    /** Whether a run can go on from it: not where a setting was on its way from a jump. */
    public boolean whole() {
        return (!(effect instanceof RiddenEffect ridden) || ridden.rebuilds())
                && Arrays.stream(lines).noneMatch(line -> line == null);
    }

    /** Has a processor go on from here, once it stands at that frame of the song. */
    void into(Effect other) {
        if (other instanceof RiddenEffect ridden && effect instanceof RiddenEffect before) {
            ridden.goOn(before);
        } else if (effect != null) {
            other.adopt(effect);
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
