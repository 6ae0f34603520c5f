package waterwheel.core.work;

/**
 * Progress of work that several threads share: the mean of its parts. The whole hears of one part at a time, on the
 * thread that works at that part.
 */
public final class JointProgress {
    private final Progress whole;
    private final double[] done;

    /** @param parts how many parts of equal size the work has */
    public JointProgress(Progress whole, int parts) {
        this.whole = whole;
        done = new double[parts];
    }

    /** What the work at one part tells and asks. */
    public Progress part(int index) {
        return new Progress() {
            @Override
            public void at(double part) {
                tell(index, part);
            }

            @Override
            public boolean stopped() {
                return whole.stopped();
            }
        };
    }

    private synchronized void tell(int index, double part) {
        done[index] = part;
        double sum = 0;
        for (double one : done) {
            sum += one;
        }
        whole.at(sum / done.length);
    }
}
