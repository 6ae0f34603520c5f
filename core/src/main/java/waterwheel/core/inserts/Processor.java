package waterwheel.core.inserts;

import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import waterwheel.core.rack.Loop;
import waterwheel.core.sources.SourceId;
import waterwheel.core.units.Ranges;

/**
 * A processor's settings. Immutable.
 *
 * @param values of the kind's parameters, in their order and units
 * @param response the impulse response of a kind that works with one; empty before one is chosen
 * @param loop the way out and back of a kind that leaves the computer; {@link Loop#NONE} for any other
 */
public record Processor(ProcessorKind kind, List<Double> values, Optional<SourceId> response, Loop loop) {
    public Processor {
        if (!loop.equals(Loop.NONE) && !kind.loops()) {
            throw new IllegalArgumentException("loop: " + loop + " (expected: none for the " + kind.label() + ")");
        }
        if (response.isPresent() && !kind.responds()) {
            throw new IllegalArgumentException(
                    "response: " + response.get() + " (expected: none for the " + kind.label() + ")");
        }
        if (values.size() != kind.parameters().size()) {
            throw new IllegalArgumentException("values: " + values.size() + " (expected: "
                    + kind.parameters().size() + " for the " + kind.label() + ")");
        }
        List<Double> checked = new ArrayList<>();
        for (int i = 0; i < values.size(); i++) {
            Parameter parameter = kind.parameters().get(i);
            checked.add(Ranges.checked(parameter.key(), values.get(i), parameter.least(), parameter.most()));
        }
        values = List.copyOf(checked);
    }

    /** A processor that stays in the computer. */
    public Processor(ProcessorKind kind, List<Double> values, Optional<SourceId> response) {
        this(kind, values, response, Loop.NONE);
    }

    /** A processor of a kind with the usual settings. */
    public static Processor usual(ProcessorKind kind) {
        return new Processor(
                kind, kind.parameters().stream().map(Parameter::usual).toList(), Optional.empty());
    }

    /** The value of a parameter, in its unit. */
    public double value(String key) {
        return values.get(kind.index(key));
    }

    /** A copy of all values, in the order of the kind's parameters. */
    public double[] array() {
        return values.stream().mapToDouble(Double::doubleValue).toArray();
    }

    /** Whether a running processor can come to other settings by moving, without being built anew. */
    public boolean movesTo(Processor other) {
        if (!kind.equals(other.kind) || !response.equals(other.response) || !loop.equals(other.loop)) {
            return false;
        }
        for (int i = 0; i < values.size(); i++) {
            if (kind.parameters().get(i).built() && !values.get(i).equals(other.values.get(i))) {
                return false;
            }
        }
        return true;
    }

    /** The number of a choice. */
    public int choice(String key) {
        return (int) Math.round(value(key));
    }

    /** Returns the settings with one value changed; beyond its range it stops at the end. */
    public Processor with(String key, double value) {
        Parameter parameter = kind.parameter(key);
        List<Double> changed = new ArrayList<>(values);
        changed.set(kind.index(key), Math.clamp(value, parameter.least(), parameter.most()));
        return new Processor(kind, changed, response, loop);
    }

    public Processor withResponse(SourceId value) {
        return new Processor(kind, values, Optional.of(value), loop);
    }

    public Processor withLoop(Loop value) {
        return new Processor(kind, values, response, value);
    }
}
