package waterwheel.core.metering;

import java.lang.foreign.MemorySegment;
import java.lang.foreign.ValueLayout;
import java.util.List;
import java.util.function.Function;

/**
 * A signal's level over time: per plane and 10 ms step the sample peak (linear), the energy (sum of squares) and the
 * K-weighted energy; the largest true peak; and for stereo the sum of products of left and right. Immutable.
 *
 * <p>{@link #through} gives the series of the same signal after gains without measuring again: peaks times |g|,
 * energies times g². {@link #during} gives that of a stretch of it. Both share the measured arrays.
 */
public final class LevelSeries {
    static final ValueLayout.OfDouble DOUBLES = ValueLayout.JAVA_DOUBLE;
    static final ValueLayout.OfFloat FLOATS = ValueLayout.JAVA_FLOAT;
    /** Sums of the same products in another order differ by no more, as a part of them. */
    private static final double SAME_ENERGY = 1e-9;

    /**
     * What was measured of one plane, on the heap or in a mapped file; never changed after construction. Energies are
     * kept as running sums, so that any window's energy is one subtraction. Its rounding is 1e-16 of all that came
     * before: less than 0.001 dB even for a window 100 dB below a song of hours, and exactly nothing in digital silence.
     *
     * @param peaks floats, one a step
     * @param energySums doubles, one more than there are steps, from 0
     * @param weightedSums likewise
     */
    record Plane(
            MemorySegment peaks,
            MemorySegment energySums,
            MemorySegment weightedSums,
            double truePeak,
            long peakFrame) {
        /** Of running sums from 0 on, which are not copied. */
        static Plane of(float[] peaks, double[] energySums, double[] weightedSums, double truePeak, long peakFrame) {
            return new Plane(
                    MemorySegment.ofArray(peaks),
                    MemorySegment.ofArray(energySums),
                    MemorySegment.ofArray(weightedSums),
                    truePeak,
                    peakFrame);
        }

        float peak(int step) {
            return peaks.get(FLOATS, (long) step * Float.BYTES);
        }
    }

    private static double sum(MemorySegment sums, int end) {
        return sums.get(DOUBLES, (long) end * Double.BYTES);
    }

    /** A stretch of what was measured: which steps, and which frames of the song those are. */
    private record Stretch(int firstStep, int steps, long startFrame, long frames) {}

    private final int sampleRateHz;
    private final Stretch stretch;
    private final boolean whole;
    private final Plane[] measured;
    private final MemorySegment crossEnergies;
    /** For each plane of this series, which measured one it comes from, and its linear gain. */
    private final int[] origins;

    private final double[] gains;

    private LevelSeries(
            int sampleRateHz,
            Stretch stretch,
            boolean whole,
            Plane[] measured,
            MemorySegment crossEnergies,
            int[] origins,
            double[] gains) {
        this.sampleRateHz = sampleRateHz;
        this.stretch = stretch;
        this.whole = whole;
        this.measured = measured;
        this.crossEnergies = crossEnergies;
        this.origins = origins;
        this.gains = gains;
    }

    static LevelSeries measured(int sampleRateHz, long frames, Plane[] planes, MemorySegment crossEnergies) {
        int[] origins = new int[planes.length];
        double[] gains = new double[planes.length];
        for (int i = 0; i < planes.length; i++) {
            origins[i] = i;
            gains[i] = 1;
        }
        Stretch all = new Stretch(0, Steps.count(frames, sampleRateHz), 0, frames);
        return new LevelSeries(sampleRateHz, all, true, planes, crossEnergies, origins, gains);
    }

    /** Returns the series as that of a signal whose first frame is another frame of the song. */
    public LevelSeries startingAt(long frame) {
        Stretch moved = new Stretch(stretch.firstStep, stretch.steps, frame, stretch.frames);
        return new LevelSeries(sampleRateHz, moved, whole, measured, crossEnergies, origins, gains);
    }

    /**
     * Returns the series of a stretch, widened to whole steps of 10 ms. Its true peak is not known, and the place of its
     * sample peak is, unless it is that of the whole signal, known to the step.
     *
     * @param fromFrame the stretch's first frame, counted from the signal's first one
     * @param toFrame the frame after its last one; what lies beyond the signal is left out
     */
    public LevelSeries during(long fromFrame, long toFrame) {
        long end = Math.min(toFrame, stretch.frames);
        int first = Math.clamp(fromFrame * Steps.PER_SECOND / sampleRateHz, 0, stretch.steps);
        int last = Math.clamp(Steps.count(Math.max(0, end), sampleRateHz), first, stretch.steps);
        long start = Steps.firstFrame(first, sampleRateHz);
        long frames = Math.max(0, Math.min(stretch.frames, Steps.firstFrame(last, sampleRateHz)) - start);
        boolean all = whole && first == 0 && last == stretch.steps;
        return new LevelSeries(
                sampleRateHz,
                new Stretch(stretch.firstStep + first, last - first, stretch.startFrame + start, frames),
                all,
                measured,
                crossEnergies,
                origins,
                gains);
    }

    /**
     * Returns the series of a signal that was measured in consecutive parts.
     *
     * @param parts in order; each but the last as long as a whole number of seconds, so that steps fall together
     */
    public static LevelSeries joined(List<LevelSeries> parts) {
        LevelSeries first = parts.getFirst();
        if (parts.size() == 1) {
            return first;
        }
        Plane[] planes = new Plane[first.planes()];
        for (int p = 0; p < planes.length; p++) {
            planes[p] = joined(parts, p);
        }
        double[] cross = new double
                [parts.stream().mapToInt(part -> count(part.crossEnergies)).sum()];
        int at = 0;
        for (LevelSeries part : parts) {
            int steps = count(part.crossEnergies);
            MemorySegment.copy(part.crossEnergies, DOUBLES, 0, cross, at, steps);
            at += steps;
        }
        long frames = parts.stream().mapToLong(LevelSeries::frames).sum();
        return measured(first.sampleRateHz, frames, planes, MemorySegment.ofArray(cross))
                .startingAt(first.stretch.startFrame);
    }

    private static Plane joined(List<LevelSeries> parts, int plane) {
        double truePeak = 0;
        double highest = 0;
        long peakFrame = -1;
        long start = 0;
        float[] peaks = new float[parts.stream().mapToInt(LevelSeries::steps).sum()];
        int at = 0;
        for (LevelSeries part : parts) {
            Plane one = part.measured[plane];
            int steps = (int) (one.peaks.byteSize() / Float.BYTES);
            MemorySegment.copy(one.peaks, FLOATS, 0, peaks, at, steps);
            at += steps;
            truePeak = Math.max(truePeak, one.truePeak);
            if (part.peak(plane) > highest) {
                highest = part.peak(plane);
                peakFrame = start + one.peakFrame;
            }
            start += part.frames();
        }
        return Plane.of(
                peaks,
                joinedSums(parts, peaks.length, part -> part.measured[plane].energySums),
                joinedSums(parts, peaks.length, part -> part.measured[plane].weightedSums),
                truePeak,
                peakFrame);
    }

    private static int count(MemorySegment doubles) {
        return (int) (doubles.byteSize() / Double.BYTES);
    }

    private static double[] joinedSums(List<LevelSeries> parts, int steps, Function<LevelSeries, MemorySegment> sums) {
        double[] joined = new double[steps + 1];
        int at = 0;
        for (LevelSeries part : parts) {
            MemorySegment own = sums.apply(part);
            for (int i = 1; i < count(own); i++, at++) {
                joined[at + 1] = joined[at] + (sum(own, i) - sum(own, i - 1));
            }
        }
        return joined;
    }

    /**
     * Returns the series of the same sound in a song of another length: with silence after it, or with less of that.
     *
     * @param frames not before the sound's end, nor before the filters' memory of it has gone
     */
    public LevelSeries withLength(long frames) {
        int steps = Steps.count(frames, sampleRateHz);
        Plane[] planes = new Plane[measured.length];
        for (int p = 0; p < planes.length; p++) {
            float[] peaks = new float[steps];
            int known = (int) Math.min(steps, measured[p].peaks.byteSize() / Float.BYTES);
            MemorySegment.copy(measured[p].peaks, FLOATS, 0, peaks, 0, known);
            planes[p] = Plane.of(
                    peaks,
                    lengthened(measured[p].energySums, steps + 1),
                    lengthened(measured[p].weightedSums, steps + 1),
                    measured[p].truePeak,
                    measured[p].peakFrame);
        }
        double[] cross = new double[count(crossEnergies) == 0 ? 0 : steps];
        MemorySegment.copy(crossEnergies, DOUBLES, 0, cross, 0, Math.min(cross.length, count(crossEnergies)));
        Stretch all = new Stretch(0, steps, stretch.startFrame, frames);
        return new LevelSeries(sampleRateHz, all, true, planes, MemorySegment.ofArray(cross), origins, gains);
    }

    /** Running sums to which nothing is added any more. */
    private static double[] lengthened(MemorySegment sums, int count) {
        double[] longer = new double[count];
        int known = Math.min(count, count(sums));
        MemorySegment.copy(sums, DOUBLES, 0, longer, 0, known);
        for (int i = known; i < count; i++) {
            longer[i] = longer[i - 1];
        }
        return longer;
    }

    /** The series of silence. */
    public static LevelSeries silence(int sampleRateHz, int planes, long frames) {
        return new SeriesMeter(sampleRateHz, planes, frames, Detail.EVERYTHING).finish();
    }

    /**
     * Returns the series after gains.
     *
     * @param matrix linear gains, {@code matrix[to][from]}; each row may have at most one gain that is not 0, because
     *     the level of a sum does not follow from the levels of its parts
     * @throws IllegalArgumentException if a row has more
     */
    public LevelSeries through(double[][] matrix) {
        int[] newOrigins = new int[matrix.length];
        double[] newGains = new double[matrix.length];
        for (int to = 0; to < matrix.length; to++) {
            for (int from = 0; from < origins.length; from++) {
                if (matrix[to][from] != 0) {
                    if (newGains[to] != 0) {
                        throw new IllegalArgumentException("matrix: row " + to + " mixes (expected: one gain a row)");
                    }
                    newOrigins[to] = origins[from];
                    newGains[to] = gains[from] * matrix[to][from];
                }
            }
        }
        return new LevelSeries(sampleRateHz, stretch, whole, measured, crossEnergies, newOrigins, newGains);
    }

    /** Copies what was measured of the first steps of a plane. */
    void copy(int plane, int steps, float[] peaks, double[] energySums, double[] weightedSums) {
        Plane one = measured[plane];
        MemorySegment.copy(one.peaks, FLOATS, 0, peaks, 0, steps);
        MemorySegment.copy(one.energySums, DOUBLES, 0, energySums, 0, steps + 1);
        MemorySegment.copy(one.weightedSums, DOUBLES, 0, weightedSums, 0, steps + 1);
    }

    void copyCross(int steps, double[] to) {
        MemorySegment.copy(crossEnergies, DOUBLES, 0, to, 0, steps);
    }

    /** The first frame from which on it is not silent, as far as whole steps tell; its length where it always is. */
    public long soundStart() {
        for (int step = 0; step < steps(); step++) {
            for (int p = 0; p < planes(); p++) {
                if (peak(p, step) > 0) {
                    return stretch.startFrame + framesOf(0, step);
                }
            }
        }
        return stretch.startFrame + stretch.frames;
    }

    /** Whether it is as it was measured, and not through gains or a stretch of something longer. */
    public boolean asMeasured() {
        boolean straight = whole && stretch.firstStep == 0 && origins.length == measured.length;
        for (int p = 0; straight && p < origins.length; p++) {
            straight = origins[p] == p && gains[p] == 1;
        }
        return straight;
    }

    /** What the measurement takes on the heap, in bytes; 0 where it lies in a mapped file. */
    public long heapBytes() {
        long bytes = crossEnergies.isMapped() ? 0 : crossEnergies.byteSize();
        for (Plane plane : measured) {
            bytes += plane.peaks.isMapped()
                    ? 0
                    : plane.peaks.byteSize() + plane.energySums.byteSize() + plane.weightedSums.byteSize();
        }
        return bytes;
    }

    List<Plane> measuredPlanes() {
        return List.of(measured);
    }

    MemorySegment measuredCross() {
        return crossEnergies;
    }

    public int sampleRateHz() {
        return sampleRateHz;
    }

    public long frames() {
        return stretch.frames;
    }

    public int planes() {
        return origins.length;
    }

    /** Whether K-weighted energies were gathered. */
    public boolean hasLoudness() {
        return steps() == 0 || !Double.isNaN(sum(measured[0].weightedSums, 1));
    }

    /** Number of steps; the last may be incomplete. */
    public int steps() {
        return stretch.steps;
    }

    /** Number of steps that are complete. */
    int completeSteps() {
        long end = Steps.firstFrame(stretch.firstStep + (long) stretch.steps, sampleRateHz)
                - Steps.firstFrame(stretch.firstStep, sampleRateHz);
        return end > stretch.frames ? stretch.steps - 1 : stretch.steps;
    }

    /** How many frames consecutive steps have together when they are complete. */
    long framesOf(int firstStep, int count) {
        long first = (long) stretch.firstStep + firstStep;
        return Steps.firstFrame(first + count, sampleRateHz) - Steps.firstFrame(first, sampleRateHz);
    }

    /** Sample peak of a step, linear. */
    public double peak(int plane, int step) {
        return measured[origins[plane]].peak(stretch.firstStep + step) * Math.abs(gains[plane]);
    }

    /** Its running sums of squares before its gain, one more than there are steps. */
    double[] energySums(int plane) {
        return doubles(measured[origins[plane]].energySums, steps() + 1);
    }

    /** Its running sums of squares after K-weighting, before its gain, one more than there are steps. */
    double[] weightedSums(int plane) {
        return doubles(measured[origins[plane]].weightedSums, steps() + 1);
    }

    private double[] doubles(MemorySegment all, int count) {
        double[] some = new double[count];
        MemorySegment.copy(all, DOUBLES, (long) stretch.firstStep * Double.BYTES, some, 0, count);
        return some;
    }

    /** The linear gain that its sums and peaks are still to be taken through. */
    double gain(int plane) {
        return gains[plane];
    }

    /** Sum of squares of consecutive steps. */
    public double energy(int plane, int firstStep, int count) {
        MemorySegment sums = measured[origins[plane]].energySums;
        int first = stretch.firstStep + firstStep;
        return (sum(sums, first + count) - sum(sums, first)) * gains[plane] * gains[plane];
    }

    /** Sum of squares of consecutive steps after K-weighting. */
    public double weightedEnergy(int plane, int firstStep, int count) {
        MemorySegment sums = measured[origins[plane]].weightedSums;
        int first = stretch.firstStep + firstStep;
        return (sum(sums, first + count) - sum(sums, first)) * gains[plane] * gains[plane];
    }

    /**
     * Whether both of two sides are the same, sample for sample: every step's peak and energy is, to the last bit, and no
     * sample has the other sign.
     */
    public boolean sidesAlike() {
        if (planes() != 2 || gains[0] != gains[1]) {
            return false;
        }
        Plane left = measured[origins[0]];
        Plane right = measured[origins[1]];
        for (int step = stretch.firstStep; step < stretch.firstStep + stretch.steps; step++) {
            if (left.peak(step) != right.peak(step)
                    || sum(left.energySums, step + 1) - sum(left.energySums, step)
                            != sum(right.energySums, step + 1) - sum(right.energySums, step)) {
                return false;
            }
        }
        double energy = energy(0, 0, stretch.steps);
        return Math.abs(crossEnergy() - energy) <= SAME_ENERGY * energy;
    }

    /** Sum of left times right over everything. */
    public double crossEnergy() {
        double product = gains[0] * gains[1];
        int end = stretch.firstStep + stretch.steps;
        if (origins[0] == origins[1]) {
            MemorySegment sums = measured[origins[0]].energySums;
            return (sum(sums, end) - sum(sums, stretch.firstStep)) * product;
        }
        double cross = 0;
        for (double step : doubles(crossEnergies, stretch.steps)) {
            cross += step;
        }
        return cross * product;
    }

    /** Largest true peak of all planes, linear; NaN where it was not measured. */
    public double truePeak() {
        if (!whole) {
            return Double.NaN;
        }
        double most = 0;
        for (int p = 0; p < origins.length; p++) {
            most = Math.max(most, measured[origins[p]].truePeak * Math.abs(gains[p]));
        }
        return most;
    }

    /** Largest sample peak of one plane, linear. */
    public double peak(int plane) {
        float[] peaks = new float[stretch.steps];
        MemorySegment all = measured[origins[plane]].peaks;
        MemorySegment.copy(all, FLOATS, (long) stretch.firstStep * Float.BYTES, peaks, 0, peaks.length);
        float most = 0;
        for (float peak : peaks) {
            most = Math.max(most, peak);
        }
        return most * Math.abs(gains[plane]);
    }

    /** The song's frame at which a plane's largest magnitude first is; -1 for silence. */
    public long peakFrame(int plane) {
        double peak = peak(plane);
        if (peak == 0) {
            return -1;
        }
        long start = Steps.firstFrame(stretch.firstStep, sampleRateHz);
        long exact = measured[origins[plane]].peakFrame - start;
        if (exact >= 0 && exact < stretch.frames) {
            return stretch.startFrame + exact;
        }
        int step = 0;
        while (peak(plane, step) < peak) {
            step++;
        }
        return stretch.startFrame + framesOf(0, step);
    }
}
