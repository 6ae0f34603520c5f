package waterwheel.core.path;

import java.util.List;
import waterwheel.core.session.Send;

/**
 * A send that is on, now or at some time.
 *
 * @param number its place among the channel's sends
 * @param from the stage behind which it leaves the channel: {@link Stage#FADER}, or {@link Stage#TRIM} for behind the
 *     last insert
 * @param steps its level, its switch where that moves, its placement, and at last what may silence it
 */
public record Branch(int number, Send send, Stage from, List<Step.Gain> steps) {
    public Branch {
        steps = List.copyOf(steps);
    }
}
