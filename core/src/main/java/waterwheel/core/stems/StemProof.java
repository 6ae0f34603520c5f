package waterwheel.core.stems;

import java.nio.file.Path;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import waterwheel.core.audiofile.AudioFile;
import waterwheel.core.audiofile.AudioFiles;
import waterwheel.core.audiofile.AudioFormat;
import waterwheel.core.audiofile.SampleEncoding;
import waterwheel.core.errors.AudioFileException;
import waterwheel.core.metering.Detail;
import waterwheel.core.metering.Figures;
import waterwheel.core.metering.LevelSeries;
import waterwheel.core.metering.SeriesMeter;
import waterwheel.core.units.Decibels;
import waterwheel.core.units.LevelText;
import waterwheel.core.work.Progress;
import waterwheel.core.work.Team;

/**
 * What the files themselves say after a render: read back from the disk, not taken from the engine.
 *
 * @param files by path: what each measures
 * @param traces what of them can be drawn
 * @param sameLength whether all files have the same number of frames
 * @param samplesAtLimit samples at a fixed-point format's limit, in all files
 * @param nonFiniteSamples samples that are no numbers, in all files
 * @param residualPeakDbfs largest sample of the sum of the stems, without gains of their own, minus the mix; negative
 *     infinity where they are equal
 * @param resolutionDbfs what that may be at most, from the rounding and dither of every file
 * @param processedTogether buses that treat several stems as one, so that the stems cannot add up to the mix exactly
 * @param remedy a sentence that says what would make them add up; empty where they do
 */
public record StemProof(
        Map<String, Figures> files,
        Traces traces,
        boolean sameLength,
        long samplesAtLimit,
        long nonFiniteSamples,
        double residualPeakDbfs,
        double resolutionDbfs,
        List<String> processedTogether,
        String remedy) {
    /**
     * Levels over time.
     *
     * @param files by path
     * @param residual of the sum of the stems minus the mix
     */
    public record Traces(Map<String, LevelTrace> files, LevelTrace residual) {}

    private static final int BLOCK = 1 << 13;
    /** Files are let go of so many frames at a time: all stems of a song at once would fill the memory. */
    private static final int RELEASED_FRAMES = 64 * BLOCK;
    /** Half a step of rounding and one step of dither. */
    private static final double STEPS_PER_FILE = 1.5;
    /** How many times a sample is rounded to float on its way: source gain, bus, main, output, each at most twice. */
    private static final int FLOAT_ROUNDINGS = 8;

    /** Whether the stems' sum nulls against the mix within the format's resolution. */
    public boolean nulls() {
        return sameLength && nonFiniteSamples == 0 && residualPeakDbfs <= resolutionDbfs;
    }

    /** Whether everything is as it should be: a difference has its reason, and no sample is lost. */
    public boolean holds() {
        return sameLength && finite() && (nulls() || !processedTogether.isEmpty()) && samplesAtLimit == 0;
    }

    private boolean finite() {
        return nonFiniteSamples == 0
                && files.values().stream().noneMatch(f -> f.samplePeakDbfs() == Double.POSITIVE_INFINITY)
                && !Double.isNaN(residualPeakDbfs)
                && residualPeakDbfs < Double.POSITIVE_INFINITY;
    }

    /** The proof in one sentence. */
    public String inWords() {
        if (!sameLength) {
            return "The files differ in length.";
        }
        if (!finite()) {
            return nonFiniteSamples + " samples are no numbers: the render is beyond what its format holds.";
        }
        String level = residualPeakDbfs == Double.NEGATIVE_INFINITY
                ? "nothing at all"
                : LevelText.level(residualPeakDbfs, "dBFS");
        String limit = LevelText.level(resolutionDbfs, "dBFS");
        String sum = nulls()
                ? "The stems add up to the mix: the difference is " + level + ", within the format's resolution of "
                        + limit + "."
                : processedTogether.isEmpty()
                        ? "The stems do not add up to the mix: the difference is " + level + ", more than the format's "
                                + limit + "."
                        : "The stems add up to the mix but for " + level + ", because "
                                + String.join(" and ", processedTogether)
                                + (processedTogether.size() == 1 ? " treats" : " treat")
                                + " several of them as one. " + remedy;
        return samplesAtLimit == 0
                ? sum + " No sample is at the limit."
                : sum + " " + samplesAtLimit + " samples are at the limit: the render is too hot for its format."
                        + " Render 32-bit float, or with a common gain.";
    }

    static StemProof of(
            Path folder,
            List<StemResult.Written> written,
            SampleEncoding encoding,
            Together together,
            Team team,
            Progress progress)
            throws AudioFileException {
        List<AudioFile> open = new ArrayList<>();
        try {
            for (StemResult.Written file : written) {
                open.add(AudioFiles.open(folder.resolve(file.path())));
            }
            return compare(open, written, encoding, together, team, progress);
        } finally {
            open.forEach(AudioFile::close);
        }
    }

    private static StemProof compare(
            List<AudioFile> open,
            List<StemResult.Written> written,
            SampleEncoding encoding,
            Together together,
            Team team,
            Progress progress) {
        int count = open.size();
        long frames = open.getFirst().format().frames();
        boolean sameLength = open.stream().allMatch(f -> f.format().frames() == frames);
        AudioFile.Reader[] readers = new AudioFile.Reader[count];
        SeriesMeter[] meters = new SeriesMeter[count];
        float[][][] blocks = new float[count][][];
        long[] atLimit = new long[count];
        float limit = encoding.fixedPoint() ? (float) (1 - 1 / encoding.fullScaleSteps()) : Float.POSITIVE_INFINITY;
        for (int i = 0; i < count; i++) {
            AudioFormat format = open.get(i).format();
            readers[i] = open.get(i).reader(BLOCK);
            meters[i] = new SeriesMeter(format.sampleRateHz(), format.channels(), format.frames(), Detail.EVERYTHING);
            blocks[i] = new float[format.channels()][BLOCK];
        }
        double[] undone = undone(written);
        double residual = 0;
        double[] residuals = new double[LevelTrace.SLICES];
        for (long at = 0; sameLength && at < frames; at += BLOCK) {
            progress.check();
            long start = at;
            int length = (int) Math.min(BLOCK, frames - at);
            team.run(count, i -> {
                readers[i].read(start, blocks[i], 0, length);
                meters[i].process(blocks[i], 0, length);
                atLimit[i] += countAtLimit(blocks[i], length, limit);
            });
            double one = residual(blocks, undone, length);
            residual = Math.max(residual, one);
            int slice = (int) (at * LevelTrace.SLICES / frames);
            residuals[slice] = Math.max(residuals[slice], one);
            progress.at((double) at / frames);
            if (at > 0 && at % RELEASED_FRAMES == 0) {
                open.forEach(file -> file.release(start - RELEASED_FRAMES, RELEASED_FRAMES));
            }
        }
        Map<String, Figures> figures = new LinkedHashMap<>();
        Map<String, LevelTrace> traces = new LinkedHashMap<>();
        double peaks = 0;
        double steps = 0;
        long held = 0;
        for (int i = 0; i < count; i++) {
            LevelSeries series = meters[i].finish();
            Figures one = Figures.of(series);
            figures.put(written.get(i).path(), one);
            traces.put(written.get(i).path(), LevelTrace.of(series));
            held += atLimit[i];
            if (undone[i] != 0) {
                peaks += Math.abs(undone[i]) * Decibels.toFactor(one.samplePeakDbfs());
                steps += Math.abs(undone[i]) * STEPS_PER_FILE;
            }
        }
        double resolution =
                FLOAT_ROUNDINGS * peaks * 0x1p-24 + (encoding.fixedPoint() ? steps / encoding.fullScaleSteps() : 0);
        return new StemProof(
                figures,
                new Traces(traces, LevelTrace.ofPeaks(residuals)),
                sameLength,
                held,
                Arrays.stream(readers)
                        .mapToLong(AudioFile.Reader::nonFiniteSamples)
                        .sum(),
                Decibels.ofFactor(residual),
                Decibels.ofFactor(resolution),
                together.buses(),
                together.remedy());
    }

    /** What each file counts in the sum of the stems minus the mix: where a stem got a gain of its own, that is taken back. */
    private static double[] undone(List<StemResult.Written> written) {
        double mixDb = written.stream()
                .filter(file -> file.role() == StemResult.Role.MIX)
                .mapToDouble(StemResult.Written::gainDb)
                .findFirst()
                .orElse(0);
        return written.stream()
                .mapToDouble(file -> switch (file.role()) {
                    case MIX -> -1;
                    case STEM -> Decibels.toFactor(mixDb - file.gainDb());
                    case CUE -> 0;
                })
                .toArray();
    }

    private static double residual(float[][][] blocks, double[] undone, int frames) {
        double largest = 0;
        double[] sum = new double[frames];
        for (int p = 0; p < 2; p++) {
            Arrays.fill(sum, 0);
            for (int f = 0; f < blocks.length; f++) {
                // A file of one side stands for both.
                float[] plane = blocks[f][Math.min(p, blocks[f].length - 1)];
                double gain = undone[f];
                for (int i = 0; i < frames; i++) {
                    sum[i] += gain * plane[i];
                }
            }
            for (double one : sum) {
                largest = Math.max(largest, Math.abs(one));
            }
        }
        return largest;
    }

    private static long countAtLimit(float[][] block, int frames, float limit) {
        long found = 0;
        for (float[] plane : block) {
            for (int i = 0; i < frames; i++) {
                found += plane[i] >= limit || (plane[i] <= -1 && limit < 2) ? 1 : 0;
            }
        }
        return found;
    }
}
