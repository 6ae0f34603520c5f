package waterwheel.core.instruments;

import java.util.List;
import java.util.function.DoubleUnaryOperator;
import waterwheel.core.notes.NoteChange;

/** A value that changes at frames, and goes to each new one in a straight line. */
final class GainLine {
    private final long[] frames;
    private final double[] values;
    private final double usual;
    private final int glide;
    private long at;
    /** The change that came last. */
    private int change = -1;

    private GainLine(long[] frames, double[] values, double usual, int glide) {
        this.frames = frames;
        this.values = values;
        this.usual = usual;
        this.glide = glide;
    }

    /**
     * Makes a line.
     *
     * @param glide how many frames a change takes
     * @param law from what a change says to the value
     */
    static GainLine of(List<NoteChange> changes, double usual, int glide, DoubleUnaryOperator law) {
        return new GainLine(
                changes.stream().mapToLong(NoteChange::frame).toArray(),
                changes.stream()
                        .mapToDouble(one -> law.applyAsDouble(one.value()))
                        .toArray(),
                law.applyAsDouble(usual),
                glide);
    }

    /** Whether it is the usual value throughout. */
    boolean still() {
        for (double value : values) {
            if (value != usual) {
                return false;
            }
        }
        return true;
    }

    void seek(long frame) {
        if (frame < at) {
            change = -1;
        }
        at = frame;
    }

    double next() {
        while (change + 1 < frames.length && frames[change + 1] <= at) {
            change++;
        }
        double value = value();
        at++;
        return value;
    }

    private double value() {
        if (change < 0) {
            return usual;
        }
        double before = change == 0 ? usual : values[change - 1];
        double part = Math.min(1, (at - frames[change] + 1.0) / glide);
        return before + part * (values[change] - before);
    }
}
