package waterwheel.core.edit;

import java.util.ArrayList;
import java.util.List;
import waterwheel.core.controllers.ControllerPart;
import waterwheel.core.session.Assignment;
import waterwheel.core.session.ControlId;
import waterwheel.core.session.Controls;
import waterwheel.core.session.Session;

/** The edits of what a controller's parts move. */
public final class ControllerEdits {
    private ControllerEdits() {}

    /** Has a part move a control, and no other any more. */
    public static Edit assign(Session named, ControllerPart part, ControlId control) {
        return new Edit(
                "Controller for " + Controls.name(named, control) + " of " + Controls.ownerName(named, control),
                session -> {
                    List<Assignment> all = new ArrayList<>(session.assignments());
                    all.removeIf(one -> one.part().equals(part));
                    all.add(new Assignment(part, control));
                    return session.withAssignments(all);
                });
    }

    /** Has a part move nothing. */
    public static Edit release(ControllerPart part) {
        return new Edit(
                "Release of " + part.inWords(),
                session -> session.withAssignments(session.assignments().stream()
                        .filter(one -> !one.part().equals(part))
                        .toList()));
    }
}
