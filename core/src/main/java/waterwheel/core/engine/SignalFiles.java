package waterwheel.core.engine;

import java.nio.file.Path;
import java.util.ArrayList;
import java.util.BitSet;
import java.util.List;
import waterwheel.core.audiofile.SampleEncoding;
import waterwheel.core.audiofile.WavWriter;
import waterwheel.core.errors.AudioFileException;
import waterwheel.core.work.Progress;
import waterwheel.core.work.Team;

/** Writes signals of a plan to files of the song's length, all in one run of it. */
public final class SignalFiles {
    private static final int BLOCK = 2_048;

    private SignalFiles() {}

    /** A signal, by its index in the plan, and the file that it is written to. */
    public record Target(int signal, Path file) {}

    /**
     * Writes them; what processors hold up is put back to the song's line.
     *
     * @param encoding FLOAT_32 or PCM_24, which is dithered
     * @return of each how many samples would not fit the encoding; where some do not, no file is written
     * @throws AudioFileException if a file cannot be written; nothing is left under any name that was not there
     * @throws java.util.concurrent.CancellationException if the progress says stop; likewise
     */
    public static List<Long> write(
            Plan plan, Media media, Team team, List<Target> targets, SampleEncoding encoding, Progress progress)
            throws AudioFileException {
        if (targets.isEmpty()) {
            return List.of();
        }
        BitSet wanted = new BitSet();
        targets.forEach(target -> wanted.set(target.signal()));
        PlanRun run = PlanRun.ofStretch(plan, media, team, BLOCK, wanted);
        List<WavWriter> writers = new ArrayList<>();
        try {
            int latest = 0;
            for (Target target : targets) {
                WavWriter writer = writer(plan, target, encoding);
                writers.add(writer);
                latest = Math.max(latest, plan.latencies().get(target.signal()));
                WrittenSignal.of(run, target.signal(), writer);
            }
            WrittenSignal.run(run, latest, progress);
            progress.check();
            List<Long> limited = writers.stream().map(WavWriter::limitedSamples).toList();
            if (limited.stream().allMatch(count -> count == 0)) {
                for (WavWriter writer : writers) {
                    writer.finish();
                }
            }
            return limited;
        } finally {
            for (WavWriter writer : writers) {
                writer.close();
            }
        }
    }

    private static WavWriter writer(Plan plan, Target target, SampleEncoding encoding) throws AudioFileException {
        int planes = plan.signals().get(target.signal()).planes();
        return encoding == SampleEncoding.FLOAT_32
                ? WavWriter.createExact(target.file(), planes, plan.sampleRateHz(), encoding, plan.lengthFrames())
                : WavWriter.create(target.file(), planes, plan.sampleRateHz(), encoding, plan.lengthFrames());
    }
}
