package waterwheel.core.levels;

import java.util.List;
import waterwheel.core.engine.Media;
import waterwheel.core.engine.Plan;

/**
 * Names for what signals are made of that hold beyond this machine: equal names mean equal samples, wherever the
 * session's folder lies.
 */
public final class SignalNames {
    private SignalNames() {}

    /**
     * The names of all signals of a plan, in its order. Files whose content nobody looked at yet are read.
     *
     * @param plan without loops that run through an interface
     */
    public static List<String> of(Plan plan, Media media) {
        return SignalKey.of(plan, media::content).stream().map(SignalKey::hex).toList();
    }
}
