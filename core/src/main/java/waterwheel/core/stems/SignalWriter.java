package waterwheel.core.stems;

import java.nio.file.Path;
import java.util.BitSet;
import waterwheel.core.audiofile.AudioFileWriter;
import waterwheel.core.audiofile.FileTags;
import waterwheel.core.audiofile.RenderFormat;
import waterwheel.core.engine.Media;
import waterwheel.core.engine.Plan;
import waterwheel.core.engine.PlanRun;
import waterwheel.core.engine.WrittenSignal;
import waterwheel.core.errors.AudioFileException;
import waterwheel.core.work.Progress;
import waterwheel.core.work.Team;

/** Runs a plan over the whole song and writes one of its signals to a file. */
public final class SignalWriter {
    private static final int BLOCK = 512;

    private SignalWriter() {}

    /**
     * Renders a stereo signal.
     *
     * @param index of the signal in the plan
     * @param tags what it says of itself
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
            FileTags tags,
            Progress progress)
            throws AudioFileException {
        BitSet wanted = new BitSet();
        wanted.set(index);
        PlanRun run = PlanRun.ofStretch(plan, media, team, BLOCK, wanted);
        try (AudioFileWriter writer =
                AudioFileWriter.create(file, 2, plan.sampleRateHz(), format, plan.lengthFrames(), tags)) {
            WrittenSignal.of(run, index, writer);
            WrittenSignal.run(run, plan.latencies().get(index), progress);
            writer.finish();
            return writer.limitedSamples();
        }
    }
}
