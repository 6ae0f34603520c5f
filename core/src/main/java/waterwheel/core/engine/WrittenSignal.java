package waterwheel.core.engine;

import waterwheel.core.audiofile.AudioFileWriter;
import waterwheel.core.errors.AudioFileException;
import waterwheel.core.work.Progress;

/** Writes a signal to a file as it comes. What is late is written as much later, so that the file's first frame is the song's. */
public final class WrittenSignal implements SignalListener {
    private final AudioFileWriter writer;
    private final long late;
    private final long end;

    private WrittenSignal(AudioFileWriter writer, long late, long frames) {
        this.writer = writer;
        this.late = late;
        end = late + frames;
    }

    /** Has a signal of a run written over the song's length; call before the first block. */
    public static void of(PlanRun run, int index, AudioFileWriter writer) {
        Plan plan = run.plan();
        run.listen(index, new WrittenSignal(writer, plan.latencies().get(index), plan.lengthFrames()));
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
        int from = Math.clamp(late - firstFrame, 0, frames);
        int to = Math.clamp(end - firstFrame, 0, frames);
        if (to <= from) {
            return;
        }
        try {
            writer.write(signal, from, to - from);
        } catch (AudioFileException e) {
            throw new Refused(e);
        }
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
