package waterwheel.core.metering;

import java.lang.foreign.MemorySegment;
import java.util.Arrays;
import java.util.NavigableMap;
import java.util.concurrent.ConcurrentSkipListMap;

/**
 * Measures a signal of known length into a {@link LevelSeries}. The work has parts that are independent of each other,
 * so that they can be given to different threads: part 0 gathers peaks and energies, each further one a plane's true
 * peak. Every part belongs to one thread at a time and must see every frame once, in order. Allocates nothing after
 * construction.
 */
public final class SeriesMeter {
    private final int sampleRateHz;
    private final long frames;
    private final int planes;
    private final Detail detail;
    /** Two planes each, the last alone where their number is odd. */
    private final StepEnergies[] sums;

    /** Of two planes at a time, where nothing is weighted. */
    private final SquareSums plain = new SquareSums();

    private final double[] weights;
    private final PeakScan scan = new PeakScan();
    private final TruePeakMeter[] truePeaks;
    private final float[][] peaks;
    /** By plane of the steps, each one place further on, until they become running sums. */
    private final double[][] energies;

    private final double[][] weighted;
    private final double[] cross;
    private final float[] highest;
    private final long[] peakFrames;
    private int settling;
    private long position;
    private int step;
    private long stepEnd;
    /** Of how many steps the sums are running ones already. */
    private int summed;

    private final NavigableMap<Long, MeterNote> notes = new ConcurrentSkipListMap<>();

    /**
     * Makes a meter for a signal that is about to come.
     *
     * @param planes 1 or more
     * @param frames how many frames will come
     * @param detail what is gathered; figures of what is not are NaN
     */
    public SeriesMeter(int sampleRateHz, int planes, long frames, Detail detail) {
        this(sampleRateHz, ones(planes), frames, detail);
    }

    /**
     * Makes a meter for a signal whose planes count differently in its loudness.
     *
     * @param weights by plane: what its K-weighted power is multiplied by (BS.1770-5); 0 for a low-frequency channel
     */
    public SeriesMeter(int sampleRateHz, double[] weights, long frames, Detail detail) {
        int planes = weights.length;
        this.weights = weights.clone();
        this.sampleRateHz = sampleRateHz;
        this.frames = frames;
        this.planes = planes;
        int steps = Steps.count(frames, sampleRateHz);
        this.detail = detail;
        sums = new StepEnergies[Math.ceilDiv(planes, 2)];
        Arrays.setAll(sums, i -> new StepEnergies(sampleRateHz));
        truePeaks = new TruePeakMeter[detail == Detail.EVERYTHING ? planes : 0];
        for (int p = 0; p < truePeaks.length; p++) {
            truePeaks[p] = new TruePeakMeter(sampleRateHz);
        }
        peaks = new float[planes][steps];
        energies = new double[planes][steps + 1];
        weighted = new double[planes][steps + 1];
        cross = new double[planes == 2 ? steps : 0];
        highest = new float[planes];
        peakFrames = new long[planes];
        Arrays.fill(peakFrames, -1);
        stepEnd = Steps.firstFrame(1, sampleRateHz);
    }

    /**
     * Makes a meter for a part of a signal that does not begin at its first frame: some frames before it come first and
     * only settle the filters. After a second, what the filters still know of what came before is below 1e-60.
     *
     * @param settlingFrames how many frames come before the part
     */
    public static SeriesMeter ofPart(int sampleRateHz, int planes, long frames, Detail detail, int settlingFrames) {
        SeriesMeter meter = new SeriesMeter(sampleRateHz, planes, frames, detail);
        meter.settling = settlingFrames;
        return meter;
    }

    /**
     * Notes where a part stands.
     *
     * @param frame by which the note is found
     */
    public void note(int part, long frame) {
        MeterNote note = notes.computeIfAbsent(frame, _ -> new MeterNote(sampleRateHz, sums.length, truePeaks.length));
        if (part > 0) {
            note.latest[part - 1] = truePeaks[part - 1].latest();
            note.truePeaks[part - 1] = truePeaks[part - 1].highest();
        } else {
            for (int i = 0; i < sums.length; i++) {
                note.filters[i].adopt(sums[i]);
            }
            note.position = position;
            note.settling = settling;
            note.highest = highest.clone();
            note.peakFrames = peakFrames.clone();
            if (step < peaks[0].length) {
                note.cross = cross.length == 0 ? 0 : cross[step];
                note.peaks = column(step);
                note.energies = column(energies, step + 1);
                note.weighted = column(weighted, step + 1);
            }
        }
        note.noted(part);
    }

    private float[] column(int at) {
        float[] column = new float[planes];
        for (int p = 0; p < planes; p++) {
            column[p] = peaks[p][at];
        }
        return column;
    }

    private static double[] column(double[][] rows, int at) {
        return Arrays.stream(rows).mapToDouble(row -> row[at]).toArray();
    }

    /** Where parts stood, by the frames that they were noted with; read it after the last frame. */
    public NavigableMap<Long, MeterNote> notes() {
        return notes;
    }

    /**
     * Goes on from where another meter stood, of as many frames and planes and the same detail. Call before the first frame.
     *
     * @param note of a meter whose parts had all come there
     * @param measured what that meter measured in the end
     */
    public void goOn(MeterNote note, LevelSeries measured) {
        position = note.position;
        settling = note.settling;
        step = Steps.complete(position, sampleRateHz);
        stepEnd = Steps.firstFrame(step + 1L, sampleRateHz);
        summed = step;
        for (int i = 0; i < sums.length; i++) {
            sums[i].adopt(note.filters[i]);
        }
        for (int p = 0; p < truePeaks.length; p++) {
            truePeaks[p].goOn(note.latest[p], note.truePeaks[p]);
        }
        System.arraycopy(note.highest, 0, highest, 0, planes);
        System.arraycopy(note.peakFrames, 0, peakFrames, 0, planes);
        for (int p = 0; p < planes; p++) {
            measured.copy(p, step, peaks[p], energies[p], weighted[p]);
            if (step < peaks[p].length) {
                peaks[p][step] = note.peaks[p];
                energies[p][step + 1] = note.energies[p];
                weighted[p][step + 1] = note.weighted[p];
            }
        }
        if (cross.length > 0) {
            measured.copyCross(step, cross);
            if (step < cross.length) {
                cross[step] = note.cross;
            }
        }
    }

    /** How many independent parts the work has. */
    public int parts() {
        return 1 + truePeaks.length;
    }

    /** Whether a part takes little more than reading the samples, because nothing is filtered. */
    public boolean quick(int part) {
        return part == 0 && detail == Detail.LEVELS;
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
        if (part > 0) {
            truePeaks[part - 1].process(signal[part - 1], from, count);
            return;
        }
        int at = from;
        int end = from + count;
        if (settling > 0) {
            int length = Math.min(settling, count);
            sum(signal, at, length);
            settling -= length;
            at += length;
        }
        while (at < end) {
            int length = (int) Math.min(end - at, stepEnd - position);
            gather(signal, at, length);
            at += length;
            position += length;
            if (position == stepEnd) {
                step++;
                stepEnd = Steps.firstFrame(step + 1L, sampleRateHz);
            }
        }
    }

    private void gather(float[][] signal, int at, int length) {
        sum(signal, at, length);
        if (planes == 2) {
            cross[step] += sums[0].cross;
        }
        for (int p = 0; p < planes; p++) {
            energies[p][step + 1] += sums[p / 2].energy[p % 2];
            weighted[p][step + 1] += sums[p / 2].weighted[p % 2];
            float loudest = scan.loudest(signal[p], at, length);
            peaks[p][step] = Math.max(peaks[p][step], loudest);
            if (loudest > highest[p]) {
                highest[p] = loudest;
                peakFrames[p] = position + PeakScan.indexOf(loudest, signal[p], at, length) - at;
            }
        }
    }

    private void sum(float[][] signal, int at, int length) {
        for (int i = 0; i < sums.length; i++) {
            float[] one = signal[2 * i];
            boolean pair = 2 * i + 1 < planes;
            if (detail == Detail.LEVELS) {
                plain.sum(one, pair ? signal[2 * i + 1] : one, at, length);
                sums[i].plain(plain);
            } else if (pair) {
                sums[i].stereo(one, signal[2 * i + 1], at, length);
            } else {
                sums[i].mono(one, at, length);
            }
        }
    }

    private static double[] ones(int planes) {
        double[] ones = new double[planes];
        Arrays.fill(ones, 1);
        return ones;
    }

    /** Makes running sums of what each step has, in place, of those that are none yet: the first is 0. */
    private static void runningSums(double[] values, int summed, double weight) {
        for (int i = summed + 1; i < values.length; i++) {
            values[i] = values[i - 1] + values[i] * weight;
        }
    }

    /** The measurement; call it once, after the last frame. */
    public LevelSeries finish() {
        LevelSeries.Plane[] done = new LevelSeries.Plane[planes];
        for (int p = 0; p < planes; p++) {
            runningSums(energies[p], summed, 1);
            runningSums(weighted[p], summed, weights[p]);
            double truePeak = truePeaks.length == 0 ? Double.NaN : truePeaks[p].maximum();
            done[p] = LevelSeries.Plane.of(peaks[p], energies[p], weighted[p], truePeak, peakFrames[p]);
        }
        return LevelSeries.measured(sampleRateHz, frames, done, MemorySegment.ofArray(cross));
    }
}
