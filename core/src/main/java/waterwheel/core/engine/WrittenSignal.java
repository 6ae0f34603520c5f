package waterwheel.core.engine;

import waterwheel.core.audiofile.AudioFileWriter;
import waterwheel.core.errors.AudioFileException;
import waterwheel.core.work.Progress;

/**
 * Writes a stretch of a signal to a file as it comes. What is late is written as much later, so that the file's first frame
 * is the stretch's.
 */
public final class WrittenSignal implements SignalListener {
    private final AudioFileWriter writer;
    private final long start;
    private final long end;
    private final Shape shape;
    private float[][] shaped = {};

    /**
     * What of a signal goes into its file.
     *
     * @param from first frame, on the song's line
     * @param frames how many
     * @param gain linear
     * @param oneSide whether the first plane alone is written, because the other is the same
     */
    public record Shape(long from, long frames, double gain, boolean oneSide) {
        /** A plan's whole song as it is. */
        static Shape whole(Plan plan) {
            return new Shape(0, plan.lengthFrames(), 1, false);
        }
    }

    private WrittenSignal(AudioFileWriter writer, long late, Shape shape) {
        this.writer = writer;
        this.shape = shape;
        start = shape.from() + late;
        end = start + shape.frames();
    }

    /** Has a signal of a run written over the song's length; call before the first block. */
    public static void of(PlanRun run, int index, AudioFileWriter writer) {
        of(run, index, writer, Shape.whole(run.plan()));
    }

    /** Has a stretch of a signal of a run written; call before the first block. */
    public static void of(PlanRun run, int index, AudioFileWriter writer, Shape shape) {
        run.listen(index, new WrittenSignal(writer, run.plan().latencies().get(index), shape));
    }

    /**
     * Runs a plan over the whole song, to the end of the latest of its signals.
     *
     * @throws AudioFileException if a file that is written cannot be
     * @throws java.util.concurrent.CancellationException if the progress says stop
     */
    public static void run(PlanRun run, int latest, Progress progress) throws AudioFileException {
        try {
            run.stretch(0, run.plan().lengthFrames() + latest, progress);
        } catch (Refused e) {
            throw e.reason;
        }
    }

    @Override
    public void hear(float[][] signal, long firstFrame, int frames) {
        int from = Math.clamp(start - firstFrame, 0, frames);
        int to = Math.clamp(end - firstFrame, 0, frames);
        if (to <= from) {
            return;
        }
        try {
            writer.write(shaped(signal, from, to), from, to - from);
        } catch (AudioFileException e) {
            throw new Refused(e);
        }
    }

    private float[][] shaped(float[][] signal, int from, int to) {
        float[][] planes = shape.oneSide() ? new float[][] {signal[0]} : signal;
        if (shape.gain() == 1) {
            return planes;
        }
        if (shaped.length != planes.length || shaped[0].length < to) {
            shaped = new float[planes.length][signal[0].length];
        }
        for (int p = 0; p < planes.length; p++) {
            for (int i = from; i < to; i++) {
                shaped[p][i] = (float) (planes[p][i] * shape.gain());
            }
        }
        return shaped;
    }

    /** Carries a refusal of the disk through the run. */
    private static final class Refused extends RuntimeException {
        private static final long serialVersionUID = 1L;
        private final AudioFileException reason;

        Refused(AudioFileException reason) {
            super(reason);
            this.reason = reason;
        }
    }
}
