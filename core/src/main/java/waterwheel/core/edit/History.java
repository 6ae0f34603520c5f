package waterwheel.core.edit;

import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import waterwheel.core.session.Session;

/**
 * A session with the sessions before and after it. Immutable: undo and redo return another history.
 *
 * @param past earlier sessions, oldest first
 * @param present the session now
 * @param future sessions that redo brings back, nearest first
 */
public record History(List<Step> past, Session present, List<Step> future) {
    private static final int MOST_STEPS = 500;

    /**
     * A session at one side of a step.
     *
     * @param name what the step between it and its neighbour towards the present did
     * @param gesture marks the steps of one drag, which undo as one; empty for a step of its own
     */
    public record Step(String name, Session session, String gesture) {}

    public History {
        past = List.copyOf(past);
        future = List.copyOf(future);
    }

    public static History of(Session session) {
        return new History(List.of(), session, List.of());
    }

    /** Does an edit as a step of its own. */
    public History with(Edit edit) {
        return with(edit, "");
    }

    /**
     * Does an edit as part of a gesture: steps that follow each other with the same gesture are undone together.
     *
     * @param gesture a name that no other drag has; empty makes the edit a step of its own
     */
    public History with(Edit edit, String gesture) {
        Session after = edit.apply(present);
        if (after.equals(present)) {
            return this;
        }
        if (!gesture.isEmpty() && !past.isEmpty() && past.getLast().gesture().equals(gesture)) {
            return new History(past, after, List.of());
        }
        List<Step> grown = new ArrayList<>(past.size() < MOST_STEPS ? past : past.subList(1, past.size()));
        grown.add(new Step(edit.name(), present, gesture));
        return new History(grown, after, List.of());
    }

    public Optional<String> undoName() {
        return past.isEmpty() ? Optional.empty() : Optional.of(past.getLast().name());
    }

    public Optional<String> redoName() {
        return future.isEmpty()
                ? Optional.empty()
                : Optional.of(future.getFirst().name());
    }

    /** The history one step back, or this one at its beginning. */
    public History undone() {
        if (past.isEmpty()) {
            return this;
        }
        Step step = past.getLast();
        List<Step> later = new ArrayList<>(future);
        later.addFirst(new Step(step.name(), present, ""));
        return new History(past.subList(0, past.size() - 1), step.session(), later);
    }

    /** The history one step forward, or this one at its end. */
    public History redone() {
        if (future.isEmpty()) {
            return this;
        }
        Step step = future.getFirst();
        List<Step> earlier = new ArrayList<>(past);
        earlier.add(new Step(step.name(), present, ""));
        return new History(earlier, step.session(), future.subList(1, future.size()));
    }
}
