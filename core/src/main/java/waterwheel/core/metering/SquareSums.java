package waterwheel.core.metering;

/**
 * Sums of squares of two planes and of their products over a stretch, in double. A sum is a chain of additions that wait
 * for each other and that no compiler may reorder. So a stretch is cut into rows, which are added up place by place by
 * loops that are compiled to vector instructions, and the places of the sum of rows come last: half the time. One thread
 * at a time; allocates nothing after construction.
 */
final class SquareSums {
    /** Of a step of 10 ms some rows are whole at every usual rate. A constant, because loops of no known length take longer. */
    private static final int ROW = 80;

    private final double[] lefts = new double[ROW];
    private final double[] rights = new double[ROW];
    private final double[] products = new double[ROW];

    /** Sums of the last stretch. */
    double left;

    double right;
    /** Of left times right. */
    double product;

    void sum(float[] leftSamples, float[] rightSamples, int from, int count) {
        left = 0;
        right = 0;
        product = 0;
        int at = from;
        int end = from + count;
        if (count >= ROW) {
            first(leftSamples, rightSamples, at, lefts, rights, products);
            for (at += ROW; at + ROW <= end; at += ROW) {
                add(leftSamples, rightSamples, at, lefts, rights, products);
            }
            left = total(lefts);
            right = total(rights);
            product = total(products);
        }
        for (; at < end; at++) {
            double a = leftSamples[at];
            double b = rightSamples[at];
            left += a * a;
            right += b * b;
            product += a * b;
        }
    }

    private static void first(float[] a, float[] b, int from, double[] lefts, double[] rights, double[] products) {
        for (int i = 0; i < ROW; i++) {
            double x = a[from + i];
            double y = b[from + i];
            lefts[i] = x * x;
            rights[i] = y * y;
            products[i] = x * y;
        }
    }

    private static void add(float[] a, float[] b, int from, double[] lefts, double[] rights, double[] products) {
        for (int i = 0; i < ROW; i++) {
            double x = a[from + i];
            double y = b[from + i];
            lefts[i] = Math.fma(x, x, lefts[i]);
            rights[i] = Math.fma(y, y, rights[i]);
            products[i] = Math.fma(x, y, products[i]);
        }
    }

    /** Four sums side by side, which do not wait for each other. */
    private static double total(double[] places) {
        double a = 0;
        double b = 0;
        double c = 0;
        double d = 0;
        for (int i = 0; i < ROW; i += 4) {
            a += places[i];
            b += places[i + 1];
            c += places[i + 2];
            d += places[i + 3];
        }
        return (a + b) + (c + d);
    }
}
