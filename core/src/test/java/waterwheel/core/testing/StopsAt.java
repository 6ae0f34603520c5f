package waterwheel.core.testing;

import waterwheel.core.work.Progress;

/** Lets work go on until a part of it is done, from 0 to 1, and then says stop. */
public final class StopsAt implements Progress {
    private final double most;
    private double done;

    public StopsAt(double part) {
        most = part;
    }

    @Override
    public void at(double part) {
        done = part;
    }

    @Override
    public boolean stopped() {
        return done >= most;
    }
}
