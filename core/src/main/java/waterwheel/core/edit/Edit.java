package waterwheel.core.edit;

import java.util.List;
import java.util.function.UnaryOperator;
import waterwheel.core.session.Session;

/**
 * One undoable change.
 *
 * @param name what was done, as the undo menu says it, such as {@code Trim of Fiddle 1}
 * @param change a pure function; returns the same session where nothing changes
 */
public record Edit(String name, UnaryOperator<Session> change) {
    /** Several edits, one after the other, as one. */
    public static Edit together(String name, List<Edit> edits) {
        List<Edit> all = List.copyOf(edits);
        return new Edit(name, session -> {
            Session out = session;
            for (Edit edit : all) {
                out = edit.apply(out);
            }
            return out;
        });
    }

    public Session apply(Session session) {
        return change.apply(session);
    }
}
