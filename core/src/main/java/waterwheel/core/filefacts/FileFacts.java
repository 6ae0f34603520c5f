package waterwheel.core.filefacts;

import java.lang.foreign.MemorySegment;
import java.lang.foreign.ValueLayout;
import java.util.Arrays;
import java.util.Comparator;
import java.util.List;
import java.util.Optional;
import java.util.stream.Stream;
import waterwheel.core.audiofile.AudioFile;
import waterwheel.core.audiofile.AudioFormat;
import waterwheel.core.metering.PeakScan;
import waterwheel.core.metering.Sums;
import waterwheel.core.metering.TruePeakMeter;
import waterwheel.core.sources.Flattening;
import waterwheel.core.units.Decibels;
import waterwheel.core.work.Progress;

/**
 * What a single pass over a file's samples finds beside its levels.
 *
 * @param flattenedRuns number of flattened runs in all channels; 0 for float files
 * @param flattenedSamples how many samples those are
 * @param runs the first of the runs, by place
 * @param oversSamples samples of a float file beyond ±1.0; 0 for fixed-point files
 * @param nonFiniteSamples samples of a float file that are no numbers, and are read as 0
 * @param truePeakDbtp largest magnitude between and at the samples, BS.1770-5 Annex 2; NaN where others measured it
 * @param dcOffset the mean of the channel with the larger one, linear
 * @param sidesIdentical whether left and right hold the same samples; false for mono
 * @param sidesInverted whether one side is the other upside down; false for mono and for silence
 * @param silentSide the side of a stereo file that holds nothing while the other does: 0 for left, 1 for right; -1 for
 *     none
 * @param leadingSilenceFrames frames before the first sample that is not 0; the length of a silent file
 * @param digest of the samples, so that the same audio in two files is found; not for security
 * @param overview the waveform
 */
public record FileFacts(
        AudioFormat format,
        long flattenedRuns,
        long flattenedSamples,
        List<FlattenedRun> runs,
        long oversSamples,
        long nonFiniteSamples,
        double truePeakDbtp,
        double dcOffset,
        boolean sidesIdentical,
        boolean sidesInverted,
        int silentSide,
        long leadingSilenceFrames,
        long digest,
        Overview overview) {
    static final int MOST_RUNS_LISTED = 1_000;
    private static final int BLOCK = 1 << 14;

    public FileFacts {
        runs = List.copyOf(runs);
    }

    /** Whether every sample is 0. */
    public boolean silent() {
        return leadingSilenceFrames == format.frames();
    }

    /** The flattened runs in short; empty where there are none. */
    public Optional<Flattening> flattening() {
        return flattenedRuns == 0
                ? Optional.empty()
                : Optional.of(new Flattening(
                        flattenedRuns,
                        flattenedSamples,
                        (double) runs.getFirst().firstFrame() / format.sampleRateHz()));
    }

    /** Scans a file. */
    public static FileFacts of(AudioFile file, Progress progress) {
        Scan scan = new Scan(file.format(), true);
        AudioFormat format = file.format();
        AudioFile.Reader reader = file.reader(BLOCK);
        float[][] block = new float[format.channels()][BLOCK];
        for (long at = 0; at < format.frames(); at += BLOCK) {
            progress.check();
            int count = (int) Math.min(BLOCK, format.frames() - at);
            reader.read(at, block, 0, count);
            scan.process(block, count);
            progress.at((double) at / format.frames());
        }
        return scan.finish(reader.nonFiniteSamples());
    }

    /** The running state of a scan; takes every block in order. */
    static final class Scan {
        private final AudioFormat format;
        private final FlattenedScan[] flattened;
        private final TruePeakMeter[] truePeaks;
        private final double[] sums;
        private final PeakScan peaks = new PeakScan();
        private long overs;
        private boolean identical;
        private boolean inverted;
        private final float[] loudest;
        private final Overview.Gatherer overview;
        private long silentFrames;
        private boolean heard;
        private long digest = 1;
        private int[] bits = {};

        /** @param truePeak whether the true peak is measured; a report has it from elsewhere */
        Scan(AudioFormat format, boolean truePeak) {
            this.format = format;
            truePeaks = new TruePeakMeter[truePeak ? format.channels() : 0];
            for (int c = 0; c < truePeaks.length; c++) {
                truePeaks[c] = new TruePeakMeter(format.sampleRateHz());
            }
            flattened = new FlattenedScan[format.channels()];
            sums = new double[format.channels()];
            identical = format.channels() == 2 && format.frames() > 0;
            inverted = identical;
            loudest = new float[format.channels()];
            overview = new Overview.Gatherer(format.frames());
            for (int c = 0; c < flattened.length; c++) {
                flattened[c] = new FlattenedScan();
            }
        }

        void process(float[][] block, int count) {
            for (int c = 0; c < sums.length; c++) {
                if (truePeaks.length > 0) {
                    truePeaks[c].process(block[c], 0, count);
                }
                float peak = peaks.loudest(block[c], 0, count);
                loudest[c] = Math.max(loudest[c], peak);
                if (format.encoding().fixedPoint()) {
                    flattened[c].process(block[c], 0, count, FlattenedScan.loud(peak));
                } else if (peak > 1) {
                    overs += countOvers(block[c], count);
                }
                sums[c] += Sums.of(block[c], 0, count);
            }
            if (identical) {
                identical = Arrays.equals(block[0], 0, count, block[1], 0, count);
            }
            if (inverted) {
                inverted = opposite(block[0], block[1], count);
            }
            if (!heard) {
                int silent = silentAtBeginning(block, count);
                silentFrames += silent;
                heard = silent < count;
            }
            digest = 31 * digest + hash(block) + count;
            overview.process(block, count);
        }

        /** What {@link Arrays#deepHashCode} gives, by way of ints, for which there is a faster instruction. */
        private int hash(float[][] block) {
            int hash = 1;
            for (float[] plane : block) {
                if (bits.length != plane.length) {
                    bits = new int[plane.length];
                }
                MemorySegment.copy(plane, 0, MemorySegment.ofArray(bits), ValueLayout.JAVA_FLOAT, 0, plane.length);
                hash = 31 * hash + Arrays.hashCode(bits);
            }
            return hash;
        }

        private static boolean opposite(float[] left, float[] right, int count) {
            for (int i = 0; i < count; i++) {
                if (left[i] != -right[i]) {
                    return false;
                }
            }
            return true;
        }

        private static int silentAtBeginning(float[][] block, int count) {
            for (int i = 0; i < count; i++) {
                for (float[] plane : block) {
                    if (plane[i] != 0) {
                        return i;
                    }
                }
            }
            return count;
        }

        FileFacts finish(long nonFiniteSamples) {
            double dc = 0;
            long runs = 0;
            long samples = 0;
            for (int c = 0; c < sums.length; c++) {
                flattened[c].finish();
                runs += flattened[c].runs();
                samples += flattened[c].samples();
                double mean = format.frames() == 0 ? 0 : sums[c] / format.frames();
                dc = Math.abs(mean) > Math.abs(dc) ? mean : dc;
            }
            List<FlattenedRun> listed = Stream.of(flattened)
                    .flatMap(f -> f.listed().stream())
                    .sorted(Comparator.comparingLong(FlattenedRun::firstFrame))
                    .limit(MOST_RUNS_LISTED)
                    .toList();
            double truePeak = truePeaks.length == 0 ? Double.NaN : 0;
            for (TruePeakMeter meter : truePeaks) {
                truePeak = Math.max(truePeak, meter.maximum());
            }
            boolean silent = !heard;
            int silentSide = sums.length != 2 || silent ? -1 : loudest[0] == 0 ? 0 : loudest[1] == 0 ? 1 : -1;
            return new FileFacts(
                    format,
                    runs,
                    samples,
                    listed,
                    overs,
                    nonFiniteSamples,
                    Decibels.ofFactor(truePeak),
                    dc,
                    identical && !silent,
                    inverted && !silent,
                    silentSide,
                    silentFrames,
                    digest,
                    overview.finish());
        }

        private static long countOvers(float[] data, int count) {
            long found = 0;
            for (int i = 0; i < count; i++) {
                found += Math.abs(data[i]) > 1 ? 1 : 0;
            }
            return found;
        }
    }
}
