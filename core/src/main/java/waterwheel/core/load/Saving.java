package waterwheel.core.load;

import java.util.BitSet;
import java.util.List;
import java.util.OptionalDouble;
import waterwheel.core.engine.Plan;
import waterwheel.core.freezing.FreezeRun;
import waterwheel.core.freezing.FrozenPoint;
import waterwheel.core.session.Session;

/** What freezing channels would save. */
public final class Saving {
    private Saving() {}

    /**
     * The share of a block's time that would be saved: of a bus also what feeds nothing else. What reading the frozen
     * sound takes instead is not in it; that is some ten thousandths.
     *
     * @param load of the session as it is
     * @return empty where nothing was measured, or a channel is frozen already or not in what was
     */
    public static OptionalDouble of(Load load, Session session, List<FreezeRun.Wanted> wanted) {
        BitSet saved = new BitSet();
        Plan plan = load.plan();
        for (FreezeRun.Wanted one : wanted) {
            OptionalDouble none = OptionalDouble.empty();
            if (load.empty() || session.find(one.channel()).isEmpty()) {
                return none;
            }
            FrozenPoint point = new FrozenPoint(session.channel(one.channel()), one.through());
            if (!point.isIn(plan)) {
                return none;
            }
            saved.or(plan.onlyFor(point.signal(plan)));
        }
        return OptionalDouble.of(load.usual(saved));
    }
}
