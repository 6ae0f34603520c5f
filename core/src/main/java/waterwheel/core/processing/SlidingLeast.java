package waterwheel.core.processing;

/**
 * The least of the last values: a queue in which no value stands behind a larger one (Lemire, Streaming maximum-minimum
 * filter, 2006). Constant time a value on the average.
 */
final class SlidingLeast {
    private final int window;
    private final float[] values;
    private final long[] places;
    private int first;
    private int count;
    private long position;

    /** @param window how many values count */
    SlidingLeast(int window) {
        this.window = window;
        values = new float[window];
        places = new long[window];
    }

    float next(float value) {
        if (count > 0 && places[first] <= position - window) {
            first = (first + 1) % window;
            count--;
        }
        while (count > 0 && values[(first + count - 1) % window] >= value) {
            count--;
        }
        int last = (first + count) % window;
        values[last] = value;
        places[last] = position;
        count++;
        position++;
        return values[first];
    }

    void reset() {
        first = 0;
        count = 0;
        position = 0;
    }

    void adopt(SlidingLeast other) {
        System.arraycopy(other.values, 0, values, 0, window);
        System.arraycopy(other.places, 0, places, 0, window);
        first = other.first;
        count = other.count;
        position = other.position;
    }
}
