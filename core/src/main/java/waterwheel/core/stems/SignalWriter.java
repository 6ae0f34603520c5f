package waterwheel.core.stems;

import java.nio.file.Path;
import java.util.ArrayList;
import java.util.BitSet;
import java.util.List;
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

/** Runs a plan over the whole song and writes some of its signals to files. */
final class SignalWriter {
    private static final int BLOCK = 2_048;

    private SignalWriter() {}

    /**
     * A stereo signal, by its index in the plan, and the file that it goes to.
     *
     * @param tags what the file says of itself
     */
    record Target(int signal, Path file, FileTags tags, WrittenSignal.Shape shape) {}

    /**
     * Renders signals, all in one run.
     *
     * @return of each how many samples had to be held at the format's limit; 0 in a clean render
     * @throws AudioFileException if a file cannot be written; nothing is left under any name
     * @throws java.util.concurrent.CancellationException if the progress says stop; likewise
     */
    static List<Long> write(
            Plan plan, List<Target> targets, Media media, Team team, RenderFormat format, Progress progress)
            throws AudioFileException {
        BitSet wanted = new BitSet();
        targets.forEach(target -> wanted.set(target.signal()));
        PlanRun run = PlanRun.ofStretch(plan, media, team, BLOCK, wanted);
        List<AudioFileWriter> writers = new ArrayList<>();
        try {
            int latest = 0;
            for (Target target : targets) {
                WrittenSignal.Shape shape = target.shape();
                AudioFileWriter writer = AudioFileWriter.create(
                        target.file(),
                        shape.oneSide() ? 1 : 2,
                        plan.sampleRateHz(),
                        format,
                        shape.frames(),
                        target.tags());
                writers.add(writer);
                latest = Math.max(latest, plan.latencies().get(target.signal()));
                WrittenSignal.of(run, target.signal(), writer, shape);
            }
            WrittenSignal.run(run, latest, progress);
            progress.at(1);
            progress.check();
            for (AudioFileWriter writer : writers) {
                writer.finish();
            }
            return writers.stream().map(AudioFileWriter::limitedSamples).toList();
        } finally {
            for (AudioFileWriter writer : writers) {
                writer.close();
            }
        }
    }
}
