package waterwheel.core.engine;

/**
 * What comes in by an interface and goes out by it, a block at a time: {@code [port - 1][0 .. frames)}, full scale ±1.0.
 */
public final class PortBuffers {
    /** Of a run that knows no interface. */
    public static final PortBuffers NONE = new PortBuffers(0, 0, 0);

    private final float[][] in;
    private final float[][] out;

    public PortBuffers(int inputs, int outputs, int maxFrames) {
        in = new float[inputs][maxFrames];
        out = new float[outputs][maxFrames];
    }

    /** What came in; filled before a block is computed. */
    public float[][] in() {
        return in;
    }

    /** What goes out; to be filled after a block is computed. */
    public float[][] out() {
        return out;
    }
}
