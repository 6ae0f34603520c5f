package waterwheel.core.edit;

import java.util.ArrayList;
import java.util.List;
import java.util.Optional;

/**
 * A session, or another immutable document, with those before and after it. Immutable: undo and redo return another
 * history.
 *
 * @param past earlier states, oldest first
 * @param present the state now
 * @param future states that redo brings back, nearest first
 */
public record History<T>(List<Step<T>> past, T present, List<Step<T>> future) {
    private static final int MOST_STEPS = 500;

    /**
     * A state at one side of a step.
     *
     * @param name what the step between it and its neighbour towards the present did
     * @param gesture marks the steps of one drag, which undo as one; empty for a step of its own
     */
    public record Step<T>(String name, T state, String gesture) {}

    public History {
        past = List.copyOf(past);
        future = List.copyOf(future);
    }

    public static <T> History<T> of(T state) {
        return new History<>(List.of(), state, List.of());
    }

    /**
     * Takes a step as part of a gesture: steps that follow each other with the same gesture are undone together.
     *
     * @param name what it does
     * @param after the state behind it; where that is the present one, there is no step
     * @param gesture a name that no other drag has; empty makes it a step of its own
     */
    public History<T> with(String name, T after, String gesture) {
        if (after.equals(present)) {
            return this;
        }
        if (!gesture.isEmpty() && !past.isEmpty() && past.getLast().gesture().equals(gesture)) {
            return new History<>(past, after, List.of());
        }
        List<Step<T>> grown = new ArrayList<>(past.size() < MOST_STEPS ? past : past.subList(1, past.size()));
        grown.add(new Step<>(name, present, gesture));
        return new History<>(grown, after, List.of());
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
    public History<T> undone() {
        if (past.isEmpty()) {
            return this;
        }
        Step<T> step = past.getLast();
        List<Step<T>> later = new ArrayList<>(future);
        later.addFirst(new Step<>(step.name(), present, ""));
        return new History<>(past.subList(0, past.size() - 1), step.state(), later);
    }

    /** The history one step forward, or this one at its end. */
    public History<T> redone() {
        if (future.isEmpty()) {
            return this;
        }
        Step<T> step = future.getFirst();
        List<Step<T>> earlier = new ArrayList<>(past);
        earlier.add(new Step<>(step.name(), present, ""));
        return new History<>(earlier, step.state(), future.subList(1, future.size()));
    }
}
