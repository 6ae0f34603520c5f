package waterwheel.core.processing;

/**
 * How an effect's settings move over a block: from each place on towards goals, in straight lines, until the next place.
 * Filled by one thread, which then has it followed; allocates nothing after construction.
 */
public final class Moves {
    /** No moves: everything stays or goes where it goes. */
    static final Moves NONE = new Moves(0, 0);

    private static final int[] NOTHING = {};

    private final int[] at;
    private final int[] frames;
    private final double[][] rows;
    private int[] moved = NOTHING;
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
        rows = new double[parameters][most];
    }

    /**
     * Begins anew.
     *
     * @param parameters the places of those that move; kept, and not changed any more by the caller
     */
    public void begin(int[] parameters) {
        moved = parameters;
        count = 0;
    }

    /**
     * Adds a goal; what it is, is written into the rows of the parameters that move.
     *
     * @param place from which frame of the block on it is gone to; each later than the one before
     * @param length after how many frames it is reached, unless another goal comes before
     * @return whether there was room for it
     */
    public boolean add(int place, int length) {
        if (count == at.length) {
            return false;
        }
        at[count] = place;
        frames[count] = length;
        count++;
        return true;
    }

    /** What a parameter goes to with each goal: to be filled in for those that move. */
    public double[] row(int parameter) {
        return rows[parameter];
    }

    public int count() {
        return count;
    }

    int at(int goal) {
        return at[goal];
    }

    int frames(int goal) {
        return frames[goal];
    }

    /** Whether a parameter moves; no parameter, of a negative place, does not. */
    boolean moves(int parameter) {
        for (int one : moved) {
            if (one == parameter) {
                return true;
            }
        }
        return false;
    }

    /** Writes what the parameters that move go to among all settings. */
    void write(int goal, double[] settings) {
        for (int parameter : moved) {
            settings[parameter] = rows[parameter][goal];
        }
    }
}
