package waterwheel.desktop.model;

import java.util.List;
import waterwheel.core.captures.Captured;
import waterwheel.core.edit.Edit;

/** Puts what was captured into the session, in one step a pass. */
public final class KeptCaptures {
    private KeptCaptures() {}

    /** On the interface thread. */
    public static void keep(SessionModel model, List<Captured> captured) {
        model.edit(
                new Edit(captured.size() == 1 ? "Capture" : "Captures", session -> Captured.into(session, captured)));
        long clipped = captured.stream().filter(one -> one.clippedSamples() > 0).count();
        if (clipped > 0) {
            model.tell(clipped + (clipped == 1 ? " capture" : " captures")
                    + " clipped at the input: turn the units' outputs down and capture again.");
        }
    }
}
