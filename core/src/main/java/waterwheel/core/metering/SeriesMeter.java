package waterwheel.core.metering;

/**
 * Measures a signal of known length into a {@link LevelSeries}. The planes and the product of left and right are
 * independent of each other, so that they can be given to different threads: each of {@link #parts()} parts belongs to
 * one thread at a time and must see every frame once, in order.
 */
public final class SeriesMeter {
    private final int sampleRateHz;
    private final long frames;
    private final PlaneMeter[] planes;
    private final double[] crossEnergies;
    private long crossPosition;

    /**
     * @param planeCount 1 or 2
     * @param frames how many frames will come
     */
    public SeriesMeter(int sampleRateHz, int planeCount, long frames) {
        this.sampleRateHz = sampleRateHz;
        this.frames = frames;
        planes = new PlaneMeter[planeCount];
        for (int i = 0; i < planeCount; i++) {
            planes[i] = new PlaneMeter(sampleRateHz, frames);
        }
        crossEnergies = new double[planeCount == 2 ? Steps.count(frames, sampleRateHz) : 0];
    }

    /** How many independent parts the work has: one a plane. */
    public int parts() {
        return planes.length;
    }

    /** Takes the next frames, all parts after each other. */
    public void process(float[][] signal, int from, int count) {
        for (int part = 0; part < parts(); part++) {
            process(part, signal, from, count);
        }
    }

    /**
     * Takes the next frames for one part.
     *
     * @param signal {@code signal[plane][from .. from + count)}, full scale ±1.0; not changed
     */
    public void process(int part, float[][] signal, int from, int count) {
        planes[part].process(signal[part], from, count);
        if (part == 1) {
            gatherCross(signal, from, count);
        }
    }

    private void gatherCross(float[][] signal, int from, int count) {
        for (int done = 0; done < count; ) {
            int step = Math.toIntExact(crossPosition * Steps.PER_SECOND / sampleRateHz);
            if (Steps.firstFrame(step + 1L, sampleRateHz) <= crossPosition) {
                step++;
            }
            int part = (int) Math.min(count - done, Steps.firstFrame(step + 1L, sampleRateHz) - crossPosition);
            crossEnergies[step] += product(signal[0], signal[1], from + done, part);
            done += part;
            crossPosition += part;
        }
    }

    private static double product(float[] left, float[] right, int from, int count) {
        double s0 = 0;
        double s1 = 0;
        double s2 = 0;
        double s3 = 0;
        int i = from;
        for (int end = from + count - 3; i < end; i += 4) {
            s0 += (double) left[i] * right[i];
            s1 += (double) left[i + 1] * right[i + 1];
            s2 += (double) left[i + 2] * right[i + 2];
            s3 += (double) left[i + 3] * right[i + 3];
        }
        for (int end = from + count; i < end; i++) {
            s0 += (double) left[i] * right[i];
        }
        return s0 + s1 + (s2 + s3);
    }

    /** The measurement; call it once, after the last frame. */
    public LevelSeries finish() {
        LevelSeries.Plane[] done = new LevelSeries.Plane[planes.length];
        for (int i = 0; i < planes.length; i++) {
            PlaneMeter p = planes[i];
            done[i] = new LevelSeries.Plane(p.peaks, p.energies, p.weightedEnergies, p.truePeak(), p.peakFrame());
        }
        return LevelSeries.measured(sampleRateHz, frames, done, crossEnergies);
    }
}
