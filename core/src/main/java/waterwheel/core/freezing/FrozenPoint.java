package waterwheel.core.freezing;

import java.util.List;
import java.util.Optional;
import waterwheel.core.engine.Media;
import waterwheel.core.engine.Plan;
import waterwheel.core.engine.Signal;
import waterwheel.core.engine.SignalId;
import waterwheel.core.engine.SignalKey;
import waterwheel.core.inserts.Insert;
import waterwheel.core.inserts.SlotId;
import waterwheel.core.path.Stage;
import waterwheel.core.session.Channel;

/** Where in a channel its frozen sound is taken, in a plan that computes it. */
public record FrozenPoint(Channel channel, Optional<SlotId> through) {
    /** The plan with a signal of what is taken at each of some points, as its last ones. */
    static Plan in(Plan plan, List<FrozenPoint> points) {
        Plan out = plan;
        for (FrozenPoint point : points) {
            out = out.withTap(new SignalId(point.channel.id(), SignalId.Point.FROZEN), point.edge(plan));
        }
        return out;
    }

    /** A name for all that each of the points' sounds is made of; of a plan that has them as its last signals. */
    static List<String> madeOf(Plan with, List<FrozenPoint> points, Media media) {
        List<SignalKey> keys = SignalKey.ofContent(with, media);
        return keys.subList(keys.size() - points.size(), keys.size()).stream()
                .map(SignalKey::hex)
                .toList();
    }

    /** Whether a plan computes what lies before, so that it could be taken there. */
    public boolean isIn(Plan plan) {
        return plan.stage(channel.id(), Stage.TRIM, "").isPresent();
    }

    /** The signal of a plan that computes it from which it is taken. */
    public int signal(Plan plan) {
        return edge(plan).from();
    }

    /** A slot that is bypassed all the time passes on what is before it. */
    public Signal.Edge edge(Plan plan) {
        List<SlotId> slots = channel.strip().inserts().stream().map(Insert::id).toList();
        int last = through.map(slots::indexOf).orElse(-1);
        for (int i = last; i >= 0; i--) {
            Optional<Plan.Place> place =
                    plan.stage(channel.id(), Stage.INSERT, slots.get(i).value());
            if (place.isPresent()) {
                return place.get().edge();
            }
        }
        return plan.stage(channel.id(), Stage.TRIM, "").orElseThrow().edge();
    }
}
