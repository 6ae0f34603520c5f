package waterwheel.core.work;

import java.util.concurrent.CancellationException;

/** What long work tells its caller, and asks it, between blocks. Called on the thread that works. */
public interface Progress {
    /** Neither shows nor stops. */
    Progress NONE = new Progress() {
        @Override
        public void at(double part) {}

        @Override
        public boolean stopped() {
            return false;
        }
    };

    /** The part that is done, 0 to 1. */
    void at(double part);

    /** Whether the work should end now without a result. */
    boolean stopped();

    /**
     * Ends the work if it should stop.
     *
     * @throws CancellationException if it should
     */
    default void check() {
        if (stopped()) {
            throw new CancellationException("stopped");
        }
    }

    /** The progress of a part of the work: its 0 to 1 is {@code from} to {@code to} of the whole. */
    default Progress part(double from, double to) {
        Progress whole = this;
        return new Progress() {
            @Override
            public void at(double part) {
                whole.at(from + (to - from) * part);
            }

            @Override
            public boolean stopped() {
                return whole.stopped();
            }
        };
    }
}
