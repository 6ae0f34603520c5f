package waterwheel.core.stems;

import java.nio.file.Path;
import java.util.BitSet;
import org.jspecify.annotations.Nullable;
import waterwheel.core.audiofile.AudioFileWriter;
import waterwheel.core.audiofile.BroadcastInfo;
import waterwheel.core.audiofile.RenderFormat;
import waterwheel.core.engine.Media;
import waterwheel.core.engine.Plan;
import waterwheel.core.engine.PlanRun;
import waterwheel.core.engine.Team;
import waterwheel.core.errors.AudioFileException;
import waterwheel.core.work.Progress;

/** Runs a plan over the whole song and writes one of its signals to a file. */
public final class SignalWriter {
    private static final int BLOCK = 2_048;

    private SignalWriter() {}

    /**
     * Renders a stereo signal.
     *
     * @param index of the signal in the plan
     * @param about what a WAV file says of itself
     * @return samples that had to be held at the format's limit; 0 in a clean render
     * @throws AudioFileException if the file cannot be written; nothing is left under its name
     * @throws java.util.concurrent.CancellationException if the progress says stop; likewise
     */
    public static long write(
            Plan plan,
            int index,
            Media media,
            Team team,
            Path file,
            RenderFormat format,
            BroadcastInfo about,
            Progress progress)
            throws AudioFileException {
        BitSet wanted = new BitSet();
        wanted.set(index);
        PlanRun run = PlanRun.of(plan, media, team, BLOCK, wanted);
        try (AudioFileWriter writer =
                AudioFileWriter.create(file, 2, plan.sampleRateHz(), format, plan.lengthFrames(), about)) {
            Pending pending = new Pending(writer);
            run.alongside(pending);
            // What is late is written as much later, so that the file's first frame is the song's.
            long late = plan.latencies().get(index);
            for (long at = 0; at < plan.lengthFrames() + late; at += BLOCK) {
                progress.check();
                int count = (int) Math.min(BLOCK, plan.lengthFrames() + late - at);
                run.process(at, count);
                int skipped = Math.clamp(late - at, 0, count);
                pending.take(run.signal(index), skipped, count - skipped);
                progress.at((double) at / (plan.lengthFrames() + late));
            }
            pending.run();
            pending.check();
            writer.finish();
            return writer.limitedSamples();
        }
    }

    /** A finished block that is written while the next one is computed. */
    private static final class Pending implements Runnable {
        private final AudioFileWriter writer;
        private final float[][] block = new float[2][BLOCK];
        private int frames;
        private @Nullable AudioFileException failure;

        Pending(AudioFileWriter writer) {
            this.writer = writer;
        }

        void take(float[][] signal, int from, int count) throws AudioFileException {
            check();
            for (int p = 0; p < block.length; p++) {
                System.arraycopy(signal[p], from, block[p], 0, count);
            }
            frames = count;
        }

        @Override
        public void run() {
            try {
                writer.write(block, 0, frames);
            } catch (AudioFileException e) {
                failure = e;
            }
            frames = 0;
        }

        void check() throws AudioFileException {
            if (failure != null) {
                throw failure;
            }
        }
    }
}
