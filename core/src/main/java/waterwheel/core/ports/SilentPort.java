package waterwheel.core.ports;

/** A clock that takes audio at its pace and lets nobody hear it. */
public final class SilentPort implements AudioPort {
    private PacedClock clock = new PacedClock(48_000);

    @Override
    public String name() {
        return "Silent clock";
    }

    @Override
    public boolean silent() {
        return true;
    }

    @Override
    public void open(int rate, int maxFrames) {
        clock = new PacedClock(rate);
    }

    @Override
    public void write(float[][] out, int frames) {
        clock.pass(frames);
    }

    @Override
    public void close() {}
}
