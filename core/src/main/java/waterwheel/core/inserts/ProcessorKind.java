package waterwheel.core.inserts;

import java.util.List;

/**
 * A kind of processor as far as settings go. What it does to a signal is told by its descriptor in the room of the
 * processors, which also has the list of all kinds.
 *
 * @param key its word in the session file; lower case
 * @param label the words on screen
 * @param keyed whether it can listen to another signal than the one that it processes
 * @param responds whether it works with an impulse response, one of the session's files
 * @param loops whether it leaves the computer and comes back
 * @param parameters in the order of its panel
 */
public record ProcessorKind(
        String key, String label, boolean keyed, boolean responds, boolean loops, List<Parameter> parameters) {
    public ProcessorKind {
        parameters = List.copyOf(parameters);
    }

    /** A kind that listens to nothing but its signal and needs no response. */
    public static ProcessorKind of(String key, String label, Parameter... parameters) {
        return new ProcessorKind(key, label, false, false, false, List.of(parameters));
    }

    public ProcessorKind withKeyInput() {
        return new ProcessorKind(key, label, true, responds, loops, parameters);
    }

    public ProcessorKind withResponse() {
        return new ProcessorKind(key, label, keyed, true, loops, parameters);
    }

    public ProcessorKind withLoop() {
        return new ProcessorKind(key, label, keyed, responds, true, parameters);
    }

    /**
     * Returns the place of a parameter among the others.
     *
     * @throws IllegalArgumentException if this kind has no such parameter
     */
    public int index(String parameter) {
        for (int i = 0; i < parameters.size(); i++) {
            if (parameters.get(i).key().equals(parameter)) {
                return i;
            }
        }
        throw new IllegalArgumentException("key: '" + parameter + "' (expected: a parameter of the " + label + ")");
    }

    /**
     * Returns a parameter by its key.
     *
     * @throws IllegalArgumentException if this kind has no such parameter
     */
    public Parameter parameter(String key) {
        return parameters.get(index(key));
    }

    @Override
    public String toString() {
        return label;
    }
}
