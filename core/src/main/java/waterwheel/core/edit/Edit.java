package waterwheel.core.edit;

import java.util.function.UnaryOperator;
import waterwheel.core.session.Session;

/**
 * One undoable change.
 *
 * @param name what was done, as the undo menu says it, such as {@code Trim of Fiddle 1}
 * @param change a pure function; returns the same session where nothing changes
 */
public record Edit(String name, UnaryOperator<Session> change) {
    public Session apply(Session session) {
        return change.apply(session);
    }
}
