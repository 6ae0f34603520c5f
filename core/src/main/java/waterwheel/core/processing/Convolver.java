package waterwheel.core.processing;

import java.util.Arrays;
import java.util.List;

/** Convolves one plane with one side of a response. One thread at a time; allocates nothing after construction. */
final class Convolver {
    private static final int HEAD = Response.HEAD;
    private static final int MOVED = 4;

    private final float[] head;
    private final Stage[] stages;
    /** What came before the present block, then the block. */
    private final float[] recent;

    private final float[] sum;
    private final float[][] moved;
    private int inStretch;

    Convolver(Response.Side side, int maxFrames) {
        head = side.head;
        recent = new float[HEAD + maxFrames];
        sum = new float[maxFrames];
        moved = new float[MOVED][maxFrames];
        List<Response.Parts> parts = side.parts;
        stages = new Stage[parts.size()];
        Arrays.setAll(stages, i -> new Stage(parts.get(i)));
    }

    /** Processes in place. */
    void process(float[] signal, int frames) {
        System.arraycopy(signal, 0, recent, HEAD, frames);
        convolveHead(frames);
        // In stretches that end where blocks of the shortest parts do.
        for (int from = 0; from < frames; ) {
            int count = Math.min(frames - from, HEAD - inStretch);
            for (Stage stage : stages) {
                stage.add(signal, sum, from, count);
            }
            inStretch = (inStretch + count) % HEAD;
            from += count;
        }
        System.arraycopy(sum, 0, signal, 0, frames);
        System.arraycopy(recent, frames, recent, 0, HEAD);
    }

    /**
     * Four taps at a time, to load and store the sums a quarter as often. Each tap's input is first moved to where its
     * output goes: loops are compiled to vector instructions only where all rows are read and written at the same index,
     * and then take a third of the time, moving included.
     */
    private void convolveHead(int frames) {
        Arrays.fill(sum, 0, frames, 0);
        for (int tap = 0; tap < HEAD; tap += MOVED) {
            for (int k = 0; k < MOVED; k++) {
                System.arraycopy(recent, HEAD - tap - k, moved[k], 0, frames);
            }
            addFour(tap, frames);
        }
    }

    private void addFour(int tap, int frames) {
        final float[] out = sum;
        final float[] one = moved[0];
        final float[] two = moved[1];
        final float[] three = moved[2];
        final float[] four = moved[3];
        final float a = head[tap];
        final float b = head[tap + 1];
        final float c = head[tap + 2];
        final float d = head[tap + 3];
        for (int i = 0; i < frames; i++) {
            out[i] += a * one[i] + b * two[i] + c * three[i] + d * four[i];
        }
    }

    void reset() {
        Arrays.fill(recent, 0);
        inStretch = 0;
        for (Stage stage : stages) {
            stage.reset();
        }
    }

    long memoryBytes() {
        return Arrays.stream(stages)
                .mapToLong(stage -> (2L * stage.real.length + 2) * stage.sumReal.length * Float.BYTES)
                .sum();
    }

    void adopt(Convolver other) {
        System.arraycopy(other.recent, 0, recent, 0, HEAD);
        inStretch = other.inStretch;
        for (int i = 0; i < stages.length; i++) {
            stages[i].adopt(other.stages[i]);
        }
    }

    /** The parts of one length, by overlap-save with a line of spectra (uniformly partitioned convolution). */
    private static final class Stage {
        private final Response.Parts parts;
        private final int size;
        private final RealTransform transform;
        private final float[] window;
        private final float[] due;
        private final float[][] real;
        private final float[][] imaginary;
        private final float[] sumReal;
        private final float[] sumImaginary;
        private int newest;
        private int at;

        Stage(Response.Parts parts) {
            this.parts = parts;
            size = parts.frames;
            transform = new RealTransform(2 * size);
            window = new float[2 * size];
            due = new float[2 * size];
            int count = parts.real.length;
            real = new float[count][transform.bins()];
            imaginary = new float[count][transform.bins()];
            sumReal = new float[transform.bins()];
            sumImaginary = new float[transform.bins()];
        }

        /** Takes the next frames in and adds what is due for them. */
        void add(float[] in, float[] out, int from, int count) {
            System.arraycopy(in, from, window, size + at, count);
            for (int i = 0; i < count; i++) {
                out[from + i] += due[size + at + i];
            }
            at += count;
            if (at == size) {
                at = 0;
                convolve();
                System.arraycopy(window, size, window, 0, size);
            }
        }

        private void convolve() {
            int count = real.length;
            newest = newest == 0 ? count - 1 : newest - 1;
            transform.forward(window, real[newest], imaginary[newest]);
            Arrays.fill(sumReal, 0);
            Arrays.fill(sumImaginary, 0);
            for (int k = 0; k < count; k++) {
                int past = newest + k < count ? newest + k : newest + k - count;
                multiply(real[past], imaginary[past], parts.real[k], parts.imaginary[k]);
            }
            transform.inverse(sumReal, sumImaginary, due);
        }

        /** All six are read before either is written: the compiler cannot know that they are six arrays. */
        private void multiply(float[] xr, float[] xi, float[] hr, float[] hi) {
            final float[] re = sumReal;
            final float[] im = sumImaginary;
            for (int i = 0; i < re.length; i++) {
                final float x = xr[i];
                final float y = xi[i];
                final float h = hr[i];
                final float j = hi[i];
                final float sum = im[i];
                re[i] += x * h - y * j;
                im[i] = sum + (x * j + y * h);
            }
        }

        void reset() {
            Arrays.fill(window, 0);
            Arrays.fill(due, 0);
            for (int k = 0; k < real.length; k++) {
                Arrays.fill(real[k], 0);
                Arrays.fill(imaginary[k], 0);
            }
            newest = 0;
            at = 0;
        }

        void adopt(Stage other) {
            System.arraycopy(other.window, 0, window, 0, window.length);
            System.arraycopy(other.due, 0, due, 0, due.length);
            for (int k = 0; k < real.length; k++) {
                System.arraycopy(other.real[k], 0, real[k], 0, real[k].length);
                System.arraycopy(other.imaginary[k], 0, imaginary[k], 0, imaginary[k].length);
            }
            newest = other.newest;
            at = other.at;
        }
    }
}
