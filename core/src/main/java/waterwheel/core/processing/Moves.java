package waterwheel.core.processing;

/**
 * How an effect's settings move over a block: from each place on towards goals, in straight lines, until the next place.
 * Filled by one thread, which then has it followed; allocates nothing after construction.
 */
public final class Moves {
    /** No moves: everything stays or goes where it goes. */
    static final Moves NONE = new Moves(0, 0);

    private final int[] at;
    private final int[] frames;
    private final double[][] goals;
    private int count;

    /**
     * Makes room.
     *
     * @param most how many goals there may be in a block
     * @param parameters how many values a goal has
     */
    public Moves(int most, int parameters) {
        at = new int[most];
        frames = new int[most];
        goals = new double[most][parameters];
    }

    public void clear() {
        count = 0;
    }

    /**
     * Adds a goal.
     *
     * @param place from which frame of the block on it is gone to; each later than the one before
     * @param length after how many frames it is reached, unless another goal comes before
     * @param values of the kind's parameters; copied
     * @return whether there was room for it
     */
    public boolean add(int place, int length, double[] values) {
        if (count == at.length) {
            return false;
        }
        at[count] = place;
        frames[count] = length;
        System.arraycopy(values, 0, goals[count], 0, values.length);
        count++;
        return true;
    }

    int count() {
        return count;
    }

    int at(int goal) {
        return at[goal];
    }

    int frames(int goal) {
        return frames[goal];
    }

    double[] values(int goal) {
        return goals[goal];
    }
}
