package waterwheel.core.stems;

import java.util.ArrayList;
import java.util.List;
import waterwheel.core.engine.JointPlan;
import waterwheel.core.engine.Media;
import waterwheel.core.engine.Plan;
import waterwheel.core.engine.PlanCompiler;
import waterwheel.core.session.ChannelId;
import waterwheel.core.session.Session;

/**
 * The mix and all stems of a session as one plan: what no stem changes, such as what keys and the processors of buses hear
 * of the whole, is computed once for all. It ends where the stems end.
 */
record StemPlans(JointPlan joint, List<StemGroup> groups) {
    StemPlans {
        groups = List.copyOf(groups);
    }

    /** @param session as it is where stems are taken */
    static StemPlans of(Session session, StemSettings settings, Media media) {
        List<StemGroup> groups = StemGroups.of(session, settings.division());
        List<Plan> plans = new ArrayList<>();
        List<Integer> wanted = new ArrayList<>();
        long end = settings.toFrame(session);
        Plan mix = PlanCompiler.compile(session).withLength(end);
        plans.add(mix);
        wanted.add(mix.output());
        for (StemGroup group : groups) {
            Plan stem = group.share(settings.treatment()).plan(session, media).withLength(end);
            plans.add(stem);
            // A cue is heard beside the mix; of the others that is the mix itself.
            wanted.add(stem.monitor());
        }
        return new StemPlans(JointPlan.of(plans, wanted, media), groups);
    }

    Plan plan() {
        return joint.plan();
    }

    /** Where the mix is found in the plan. */
    int mix() {
        return joint.ends().getFirst();
    }

    /** Where a stem is found in the plan. */
    int stem(ChannelId id) {
        int place = groups.stream().map(StemGroup::id).toList().indexOf(id);
        if (place < 0) {
            throw new IllegalArgumentException("id: '" + id + "' (expected: a stem's)");
        }
        return joint.ends().get(place + 1);
    }
}
