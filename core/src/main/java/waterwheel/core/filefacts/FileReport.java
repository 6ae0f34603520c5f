package waterwheel.core.filefacts;

import waterwheel.core.audiofile.AudioFile;
import waterwheel.core.audiofile.AudioFormat;
import waterwheel.core.errors.AudioFileException;
import waterwheel.core.metering.Detail;
import waterwheel.core.metering.Figures;
import waterwheel.core.metering.LevelSeries;
import waterwheel.core.metering.SeriesMeter;
import waterwheel.core.metering.VuMeter;
import waterwheel.core.work.Progress;
import waterwheel.core.work.Team;

/**
 * Everything that is measured of one audio file.
 *
 * @param series level over time
 * @param vuMaxDb highest VU reading of the louder side, in dB relative to 0 VU
 * @param vuSeries VU reading at the end of every 10 ms, the louder side's
 */
public record FileReport(FileFacts facts, LevelSeries series, Figures figures, double vuMaxDb, VuSeries vuSeries) {
    private static final int BLOCK = 1 << 14;

    /**
     * Measures a file in one pass.
     *
     * @param vuReferenceDbfs level of the sine that reads 0 VU
     * @param team shares the channels' work
     * @throws AudioFileException if it has more than eight channels and does not say what they are for: their loudness
     *     depends on where their loudspeakers stand
     */
    public static FileReport of(AudioFile file, double vuReferenceDbfs, Team team, Progress progress)
            throws AudioFileException {
        AudioFormat format = file.format();
        int channels = format.channels();
        if (format.speakers().isEmpty()) {
            throw new AudioFileException(
                    file.path(),
                    "has " + channels + " channels and does not say which loudspeakers they are for.",
                    "Take it into a session, which splits it, or split it into files of at most eight channels.");
        }
        SeriesMeter meter = new SeriesMeter(
                format.sampleRateHz(), LoudnessWeights.of(format.speakers()), format.frames(), Detail.EVERYTHING);
        FileFacts.Scan scan = new FileFacts.Scan(format, false);
        VuSeries.Gatherer[] vu = new VuSeries.Gatherer[channels];
        for (int c = 0; c < channels; c++) {
            vu[c] = new VuSeries.Gatherer(
                    new VuMeter(format.sampleRateHz(), vuReferenceDbfs), format.sampleRateHz(), format.frames());
        }
        AudioFile.Reader reader = file.reader(BLOCK);
        // While one block is measured the next is read.
        float[][] block = new float[channels][BLOCK];
        float[][] ahead = new float[channels][BLOCK];
        int length = read(reader, format, 0, block);
        for (long at = 0; length > 0; ) {
            progress.check();
            float[][] now = block;
            float[][] next = ahead;
            int count = length;
            long after = at + count;
            int[] lengthAhead = {0};
            int metering = meter.parts();
            // The longest tasks first, so that the team ends together.
            team.run(metering + channels + 2, task -> {
                if (task == 0) {
                    scan.process(now, count);
                } else if (task <= metering) {
                    meter.process(task - 1, now, 0, count);
                } else if (task == metering + 1) {
                    lengthAhead[0] = read(reader, format, after, next);
                } else {
                    int plane = task - metering - 2;
                    vu[plane].process(now[plane], count);
                }
            });
            progress.at((double) at / format.frames());
            block = next;
            ahead = now;
            at = after;
            length = lengthAhead[0];
        }
        LevelSeries series = meter.finish();
        VuSeries louder = VuSeries.louderOf(vu);
        return new FileReport(
                scan.finish(reader.nonFiniteSamples()), series, Figures.of(series), louder.highestVu(), louder);
    }

    private static int read(AudioFile.Reader reader, AudioFormat format, long at, float[][] block) {
        int count = (int) Math.min(BLOCK, format.frames() - at);
        if (count > 0) {
            reader.read(at, block, 0, count);
        }
        return count;
    }
}
