package waterwheel.core.processing;

/**
 * Rows of numbers to work in while a block is computed: each thread's own, the same for all that it computes, so that they
 * stay near the processor. What is in them is anything; who works in them calls nothing else that does, but for a
 * {@link Detector}, which leaves some to whom it listens for. A thread's first block, and its first longer one, make them;
 * after that nothing is allocated.
 */
public final class Rows {
    /** How many there are. */
    private static final int COUNT = 8;

    private static final ThreadLocal<Rows> OF_THREAD = ThreadLocal.withInitial(Rows::new);

    private double[][] rows = new double[COUNT][0];
    private float[][] single = new float[COUNT][0];

    private Rows() {}

    /** The thread's rows, each for at least so many frames. */
    public static double[][] of(int frames) {
        Rows own = OF_THREAD.get();
        if (own.rows[0].length < frames) {
            own.rows = new double[COUNT][frames];
        }
        return own.rows;
    }

    /** The thread's rows of numbers as exact as samples, each for at least so many frames. */
    public static float[][] single(int frames) {
        Rows own = OF_THREAD.get();
        if (own.single[0].length < frames) {
            own.single = new float[COUNT][frames];
        }
        return own.single;
    }
}
