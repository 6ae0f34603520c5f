package waterwheel.core.processing;

import java.util.Arrays;

/**
 * A value that goes to another in a straight line, frame by frame, so that no setting ever steps. One thread at a time;
 * allocates nothing.
 */
final class Glide {
    private double now;
    private double to;
    private double step;
    private int left;

    Glide(double value) {
        now = value;
        to = value;
    }

    /** Goes from where it stands; the value is there after so many frames, at once for 0. */
    void to(double value, int frames) {
        to = value;
        if (frames == 0 || now == value) {
            now = value;
            left = 0;
        } else {
            step = (value - now) / frames;
            left = frames;
        }
    }

    boolean moving() {
        return left > 0;
    }

    /** The value at the next frame. */
    double now() {
        return now;
    }

    /** The value at the next frame, which is then past. */
    double next() {
        double value = now;
        if (left > 0) {
            now = --left == 0 ? to : now + step;
        }
        return value;
    }

    /** Fills {@code values[0 .. frames)} with the values of the next frames, which are then past. */
    void fill(float[] values, int frames) {
        int moving = Math.min(frames, left);
        for (int i = 0; i < moving; i++) {
            values[i] = (float) next();
        }
        Arrays.fill(values, moving, frames, (float) now);
    }

    /** Is where it goes. */
    void arrive() {
        now = to;
        left = 0;
    }
}
