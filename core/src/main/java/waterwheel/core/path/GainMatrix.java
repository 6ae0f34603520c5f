package waterwheel.core.path;

import java.util.Arrays;

/** Linear gains from each plane of a signal to each plane of a sum. Immutable. */
public final class GainMatrix {
    private final double[][] gains;

    private GainMatrix(double[][] gains) {
        this.gains = gains;
    }

    /** Copies {@code gains[to][from]}, linear. */
    public static GainMatrix of(double[][] gains) {
        double[][] copy = new double[gains.length][];
        for (int to = 0; to < gains.length; to++) {
            copy[to] = gains[to].clone();
        }
        return new GainMatrix(copy);
    }

    /** Each plane to the plane of the same number with one gain, linear. */
    public static GainMatrix diagonal(int planes, double gain) {
        double[][] gains = new double[planes][planes];
        for (int i = 0; i < planes; i++) {
            gains[i][i] = gain;
        }
        return new GainMatrix(gains);
    }

    /** Mono to both sides, stereo side by side, with one gain, linear. */
    public static GainMatrix toStereo(int fromPlanes, double gain) {
        return fromPlanes == 2 ? diagonal(2, gain) : new GainMatrix(new double[][] {{gain}, {gain}});
    }

    /** All gains times a factor, linear. */
    public GainMatrix times(double factor) {
        double[][] scaled = new double[gains.length][];
        for (int to = 0; to < gains.length; to++) {
            scaled[to] = Arrays.stream(gains[to]).map(g -> g * factor).toArray();
        }
        return new GainMatrix(scaled);
    }

    /** What comes of these gains behind others. */
    public GainMatrix after(GainMatrix first) {
        double[][] product = new double[gains.length][first.fromPlanes()];
        for (int to = 0; to < gains.length; to++) {
            for (int from = 0; from < product[to].length; from++) {
                double sum = 0;
                for (int between = 0; between < first.toPlanes(); between++) {
                    sum += gains[to][between] * first.gains[between][from];
                }
                product[to][from] = sum;
            }
        }
        return new GainMatrix(product);
    }

    /** The gains into one plane alone. */
    public GainMatrix row(int to) {
        return new GainMatrix(new double[][] {gains[to]});
    }

    /** The most that peaks of the planes before, linear, can come to in any plane behind. */
    public double loudest(float[] peaks) {
        double most = 0;
        for (double[] row : gains) {
            double sum = 0;
            for (int from = 0; from < Math.min(row.length, peaks.length); from++) {
                sum += Math.abs(row[from]) * peaks[from];
            }
            most = Math.max(most, sum);
        }
        return most;
    }

    public int toPlanes() {
        return gains.length;
    }

    public int fromPlanes() {
        return gains[0].length;
    }

    public double gain(int to, int from) {
        return gains[to][from];
    }

    /** A copy as {@code gains[to][from]}. */
    public double[][] toArray() {
        return of(gains).gains;
    }

    /** Whether nothing comes through. */
    public boolean silent() {
        return Arrays.stream(gains).allMatch(row -> Arrays.stream(row).allMatch(g -> g == 0));
    }

    /** Whether every plane of the result comes from the same plane alone. */
    public boolean keepsPlanes() {
        for (int to = 0; to < gains.length; to++) {
            for (int from = 0; from < gains[to].length; from++) {
                if (from != to && gains[to][from] != 0) {
                    return false;
                }
            }
        }
        return toPlanes() == fromPlanes();
    }

    /** Whether some plane of the result is a sum of several planes, so that its level must be measured. */
    public boolean mixes() {
        return Arrays.stream(gains)
                .anyMatch(row -> Arrays.stream(row).filter(g -> g != 0).count() > 1);
    }

    @Override
    public boolean equals(Object other) {
        return other instanceof GainMatrix that && Arrays.deepEquals(gains, that.gains);
    }

    @Override
    public int hashCode() {
        return Arrays.deepHashCode(gains);
    }

    @Override
    public String toString() {
        return Arrays.deepToString(gains);
    }

    /** The gains into one plane that is half the sum of all planes. */
    public GainMatrix folded() {
        double[][] one = new double[1][fromPlanes()];
        for (double[] row : gains) {
            for (int from = 0; from < row.length; from++) {
                one[0][from] += row[from] / gains.length;
            }
        }
        return new GainMatrix(one);
    }
}
