package waterwheel.core.metering;

/**
 * The two gates of ITU-R BS.1770-5 Annex 1: windows below an absolute level do not count, nor do those that lie a
 * number of dB below the mean of the remaining ones.
 */
final class Gating {
    private Gating() {}

    /**
     * Returns the mean of the mean squares that pass both gates, 0 where none does.
     *
     * @param absolute lowest mean square that counts, linear
     * @param relative factor on the mean of those: 0.1 for -10 dB
     */
    static double gatedMean(double[] meanSquares, double absolute, double relative) {
        double threshold = meanOfThoseOver(meanSquares, absolute) * relative;
        return meanOfThoseOver(meanSquares, Math.max(threshold, absolute));
    }

    static double meanOfThoseOver(double[] meanSquares, double threshold) {
        double sum = 0;
        int count = 0;
        for (double value : meanSquares) {
            if (value > threshold) {
                sum += value;
                count++;
            }
        }
        return count == 0 ? 0 : sum / count;
    }
}
