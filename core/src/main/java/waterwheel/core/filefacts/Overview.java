package waterwheel.core.filefacts;

import java.io.DataInput;
import java.io.DataOutput;
import java.io.IOException;
import java.nio.ByteBuffer;
import waterwheel.core.audiofile.AudioFile;
import waterwheel.core.metering.PeakScan;
import waterwheel.core.metering.Sums;
import waterwheel.core.units.Decibels;
import waterwheel.core.work.Progress;

/**
 * A file's waveform at a glance: lowest and highest sample and RMS of each of a fixed number of stretches, all channels
 * together, so that its size does not depend on the file's length. Immutable.
 */
public final class Overview {
    /** More stretches than a screen has columns. */
    private static final int MOST_STRETCHES = 4_096;

    private static final int BLOCK = 1 << 14;

    private final float[] lowest;
    private final float[] highest;
    private final float[] rms;

    private Overview(float[] lowest, float[] highest, float[] rms) {
        this.lowest = lowest;
        this.highest = highest;
        this.rms = rms;
    }

    /** How many stretches there are; 0 for an empty file. */
    public int stretches() {
        return lowest.length;
    }

    /** Lowest sample of stretches from one up to another, linear. */
    public float lowest(int from, int to) {
        float least = lowest[from];
        for (int i = from + 1; i < to; i++) {
            least = Math.min(least, lowest[i]);
        }
        return least;
    }

    /** Highest sample of stretches from one up to another, linear. */
    public float highest(int from, int to) {
        float most = highest[from];
        for (int i = from + 1; i < to; i++) {
            most = Math.max(most, highest[i]);
        }
        return most;
    }

    /** Root of the mean square of stretches from one up to another, linear. */
    public float rms(int from, int to) {
        double sum = 0;
        for (int i = from; i < to; i++) {
            sum += (double) rms[i] * rms[i];
        }
        return (float) Math.sqrt(sum / (to - from));
    }

    /**
     * The level over time, in equal parts: each part's RMS against that of the loudest, in dB; negative infinity for
     * silence.
     *
     * @param parts how many
     */
    public double[] levelsDb(int parts) {
        double[] levels = new double[parts];
        double loudest = 0;
        for (int i = 0; i < parts; i++) {
            int first = (int) ((long) stretches() * i / parts);
            int last = Math.max(first + 1, (int) Math.ceilDiv((long) stretches() * (i + 1), parts));
            levels[i] = first < stretches() ? rms(first, last) : 0;
            loudest = Math.max(loudest, levels[i]);
        }
        for (int i = 0; i < parts; i++) {
            levels[i] = levels[i] == 0 ? Double.NEGATIVE_INFINITY : Decibels.ofFactor(levels[i] / loudest);
        }
        return levels;
    }

    /**
     * Looks at a stretch of a file more closely.
     *
     * @param fromFrame its first frame
     * @param toFrame the frame after its last one, at most the file's length
     * @param mostStretches in how many stretches at most; where there are no more frames than that, each is one frame
     * @throws java.util.concurrent.CancellationException if the progress says stop
     */
    public static Overview of(AudioFile file, long fromFrame, long toFrame, int mostStretches, Progress progress) {
        Gatherer gatherer = new Gatherer(toFrame - fromFrame, mostStretches);
        AudioFile.Reader reader = file.reader(BLOCK);
        float[][] block = new float[file.format().channels()][BLOCK];
        for (long at = fromFrame; at < toFrame; at += BLOCK) {
            progress.check();
            int count = (int) Math.min(BLOCK, toFrame - at);
            reader.read(at, block, 0, count);
            gatherer.process(block, count);
        }
        return gatherer.finish();
    }

    void write(DataOutput out) throws IOException {
        out.writeInt(lowest.length);
        for (int i = 0; i < lowest.length; i++) {
            out.writeFloat(lowest[i]);
            out.writeFloat(highest[i]);
            out.writeFloat(rms[i]);
        }
    }

    /** @throws IOException if it is not whole */
    static Overview read(DataInput in) throws IOException {
        int stretches = in.readInt();
        if (stretches < 0 || stretches > MOST_STRETCHES) {
            throw new IOException("stretches: " + stretches);
        }
        // At once: number by number it took longer than all else of a facts file.
        byte[] bytes = new byte[stretches * 3 * Float.BYTES];
        in.readFully(bytes);
        float[] values = new float[stretches * 3];
        ByteBuffer.wrap(bytes).asFloatBuffer().get(values);
        Overview read = new Overview(new float[stretches], new float[stretches], new float[stretches]);
        for (int i = 0; i < stretches; i++) {
            read.lowest[i] = values[3 * i];
            read.highest[i] = values[3 * i + 1];
            read.rms[i] = values[3 * i + 2];
        }
        return read;
    }

    /** Gathers an overview from blocks that come in order. */
    static final class Gatherer {
        private final long frames;
        private final int stretches;
        private final float[] lowest;
        private final float[] highest;
        private final double[] squares;
        private final long[] counts;
        private final PeakScan scan = new PeakScan();
        private final float[] range = new float[2];
        private long position;

        Gatherer(long frames) {
            this(frames, MOST_STRETCHES);
        }

        Gatherer(long frames, int mostStretches) {
            this.frames = frames;
            stretches = (int) Math.min(mostStretches, frames);
            lowest = new float[stretches];
            highest = new float[stretches];
            squares = new double[stretches];
            counts = new long[stretches];
        }

        void process(float[][] block, int count) {
            int at = 0;
            while (at < count) {
                int stretch = (int) (position * stretches / frames);
                // The first frame of the next stretch, rounded up.
                long end = Math.ceilDiv((stretch + 1L) * frames, stretches);
                int part = (int) Math.min(count - at, end - position);
                for (float[] plane : block) {
                    gather(stretch, plane, at, part);
                }
                at += part;
                position += part;
            }
        }

        private void gather(int stretch, float[] plane, int from, int count) {
            scan.extremes(plane, from, count, range);
            lowest[stretch] = counts[stretch] == 0 ? range[0] : Math.min(lowest[stretch], range[0]);
            highest[stretch] = counts[stretch] == 0 ? range[1] : Math.max(highest[stretch], range[1]);
            squares[stretch] += Sums.ofSquares(plane, from, count);
            counts[stretch] += count;
        }

        Overview finish() {
            float[] rms = new float[stretches];
            for (int i = 0; i < stretches; i++) {
                rms[i] = (float) Math.sqrt(squares[i] / Math.max(1, counts[i]));
            }
            return new Overview(lowest, highest, rms);
        }
    }
}
