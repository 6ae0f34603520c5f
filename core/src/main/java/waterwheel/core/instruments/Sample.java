package waterwheel.core.instruments;

/** Samples in memory, of one plane or two. */
public final class Sample {
    public static final Sample NONE = new Sample(new float[][] {new float[0]});

    private final float[][] planes;

    /** @param planes {@code planes[side][frame]}; not copied, and not written to any more */
    public Sample(float[][] planes) {
        this.planes = planes;
    }

    float[][] planes() {
        return planes;
    }

    public int frames() {
        return planes[0].length;
    }
}
