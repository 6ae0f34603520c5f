package waterwheel.core.stems;

import java.util.ArrayList;
import java.util.List;
import waterwheel.core.engine.JointPlan;
import waterwheel.core.engine.Media;
import waterwheel.core.engine.Plan;
import waterwheel.core.engine.PlanCompiler;
import waterwheel.core.session.Session;

/**
 * The mix and all stems of a session as one plan: what no stem changes, such as what keys and the processors of buses hear
 * of the whole, is computed once for all.
 */
record StemPlans(JointPlan joint, List<StemDivision.Group> groups) {
    StemPlans {
        groups = List.copyOf(groups);
    }

    /** @param session as it is where stems are taken */
    static StemPlans of(Session session, StemSettings settings, Media media) {
        List<StemDivision.Group> groups = settings.division().of(session);
        List<Plan> plans = new ArrayList<>();
        List<Integer> wanted = new ArrayList<>();
        Plan mix = lasting(PlanCompiler.compile(session), settings);
        plans.add(mix);
        wanted.add(mix.output());
        for (StemDivision.Group group : groups) {
            Plan stem = lasting(group.share(settings.treatment()).plan(session, media, 0), settings);
            plans.add(stem);
            // A cue is heard beside the mix; of the others that is the mix itself.
            wanted.add(stem.monitor());
        }
        return new StemPlans(JointPlan.of(plans, wanted, media), groups);
    }

    private static Plan lasting(Plan plan, StemSettings settings) {
        return plan.withLength(plan.lengthFrames() + Math.round(settings.tailSeconds() * plan.sampleRateHz()));
    }

    Plan plan() {
        return joint.plan();
    }

    /** Where the mix is found in the plan. */
    int mix() {
        return joint.ends().getFirst();
    }

    /** Where a stem is found in the plan, by its place among the groups. */
    int stem(int place) {
        return joint.ends().get(place + 1);
    }
}
