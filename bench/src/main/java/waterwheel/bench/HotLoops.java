package waterwheel.bench;

import java.nio.file.Files;
import java.nio.file.Path;
import java.util.SplittableRandom;
import java.util.concurrent.TimeUnit;
import org.openjdk.jmh.annotations.Benchmark;
import org.openjdk.jmh.annotations.BenchmarkMode;
import org.openjdk.jmh.annotations.Fork;
import org.openjdk.jmh.annotations.Measurement;
import org.openjdk.jmh.annotations.Mode;
import org.openjdk.jmh.annotations.OperationsPerInvocation;
import org.openjdk.jmh.annotations.OutputTimeUnit;
import org.openjdk.jmh.annotations.Scope;
import org.openjdk.jmh.annotations.Setup;
import org.openjdk.jmh.annotations.State;
import org.openjdk.jmh.annotations.TearDown;
import org.openjdk.jmh.annotations.Warmup;
import waterwheel.core.audiofile.AudioFile;
import waterwheel.core.audiofile.AudioFiles;
import waterwheel.core.audiofile.SampleEncoding;
import waterwheel.core.audiofile.WavWriter;
import waterwheel.core.metering.Detail;
import waterwheel.core.metering.PeakScan;
import waterwheel.core.metering.SeriesMeter;
import waterwheel.core.metering.TruePeakMeter;
import waterwheel.core.metering.VuMeter;

/** Nanoseconds a frame of the loops that run over every sample of a song. */
@SuppressWarnings("NullAway.Init") // JMH calls the setups before any benchmark.
@State(Scope.Thread)
@BenchmarkMode(Mode.AverageTime)
@OutputTimeUnit(TimeUnit.NANOSECONDS)
@Warmup(iterations = 3, time = 1)
@Measurement(iterations = 5, time = 1)
@Fork(1)
public class HotLoops {
    private static final int FRAMES = 2_048;
    private static final int RATE = 48_000;
    /** More than any song has, so that the first call makes fresh meters. */
    private static final long NEVER_MET = Long.MAX_VALUE / 2;

    private final float[][] block = new float[2][FRAMES];
    private final PeakScan scan = new PeakScan();
    private final VuMeter vu = new VuMeter(RATE, -18);
    private final TruePeakMeter truePeak = new TruePeakMeter(RATE);
    private SeriesMeter levels = new SeriesMeter(RATE, 2, FRAMES, Detail.LEVELS);
    private SeriesMeter loudness = new SeriesMeter(RATE, 2, FRAMES, Detail.LOUDNESS);
    private long seen = NEVER_MET;
    private final float[][] decoded = new float[1][FRAMES];
    private Path path = Path.of("");
    private AudioFile file;
    private AudioFile.Reader reader;

    /** Fills the block with noise. */
    @Setup
    public void noise() {
        SplittableRandom random = new SplittableRandom(1);
        for (float[] plane : block) {
            for (int i = 0; i < FRAMES; i++) {
                plane[i] = (float) (random.nextDouble() - 0.5);
            }
        }
    }

    /** Writes and opens a 24-bit mono file of the block. */
    @Setup
    public void file() throws Exception {
        path = Files.createTempFile("decode", ".wav");
        try (WavWriter writer = WavWriter.create(path, 1, RATE, SampleEncoding.PCM_24, FRAMES)) {
            writer.write(block, 0, FRAMES);
            writer.finish();
        }
        file = AudioFiles.open(path);
        reader = file.reader(FRAMES);
    }

    /** Removes it. */
    @TearDown
    public void remove() throws Exception {
        file.close();
        Files.delete(path);
    }

    /** A 24-bit sample out of a mapped file. */
    @Benchmark
    @OperationsPerInvocation(FRAMES)
    public float decode24() {
        reader.read(0, decoded, 0, FRAMES);
        return decoded[0][FRAMES - 1];
    }

    private void renewMeters() {
        seen += FRAMES;
        if (seen > 60L * RATE) {
            seen = 0;
            levels = new SeriesMeter(RATE, 2, 61L * RATE, Detail.LEVELS);
            loudness = new SeriesMeter(RATE, 2, 61L * RATE, Detail.LOUDNESS);
        }
    }

    /** Sample peak of one plane. */
    @Benchmark
    @OperationsPerInvocation(FRAMES)
    public float peak() {
        return scan.loudest(block[0], 0, FRAMES);
    }

    /** Peaks and energies of a stereo signal. */
    @Benchmark
    @OperationsPerInvocation(FRAMES)
    public void stereoLevels() {
        renewMeters();
        levels.process(block, 0, FRAMES);
    }

    /** Peaks, energies and K-weighted energies of a stereo signal. */
    @Benchmark
    @OperationsPerInvocation(FRAMES)
    public void stereoLoudness() {
        renewMeters();
        loudness.process(block, 0, FRAMES);
    }

    /** True peak of one plane of noise, in which little can be skipped. */
    @Benchmark
    @OperationsPerInvocation(FRAMES)
    public double truePeakOfNoise() {
        truePeak.process(block[0], 0, FRAMES);
        return truePeak.maximum();
    }

    /** VU of one plane. */
    @Benchmark
    @OperationsPerInvocation(FRAMES)
    public double vu() {
        vu.process(block[0], 0, FRAMES);
        return vu.readingVu();
    }
}
