package waterwheel.core.processing;

/**
 * Where moves of filters are looked ahead: all their coefficients are found before the first is gone to. Each thread's
 * own, so that it stays near the processor; what is in it is anything.
 */
final class MovesAhead {
    /** So many moves at a time. */
    static final int MOST = 64;

    private static final ThreadLocal<MovesAhead> OF_THREAD = ThreadLocal.withInitial(MovesAhead::new);

    /** Where a filter goes with each move, {@link Biquad#SIZE} coefficients a move, where it goes elsewhere. */
    final double[] goals = new double[Biquad.SIZE * MOST];

    /** Whether it goes elsewhere with a move than before it. */
    final boolean[] elsewhere = new boolean[MOST];

    /** Half of a filter's gain with each move, in dB, and the square root of the gain, linear. */
    final double[] halves = new double[MOST];

    final double[] roots = new double[MOST];

    /** Where moves that follow each other begin and end, and by how much the coefficients move at each frame. */
    final int[] bounds = new int[MOST + 1];

    final double[] steps = new double[Biquad.SIZE * MOST];

    private MovesAhead() {}

    static MovesAhead ofThread() {
        return OF_THREAD.get();
    }
}
