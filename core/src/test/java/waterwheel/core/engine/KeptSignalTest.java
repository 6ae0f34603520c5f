package waterwheel.core.engine;

import static org.assertj.core.api.Assertions.assertThat;

import java.util.Arrays;
import java.util.Random;
import java.util.concurrent.CompletableFuture;
import org.junit.jupiter.api.AfterEach;
import org.junit.jupiter.api.DisplayNameGeneration;
import org.junit.jupiter.api.DisplayNameGenerator;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.ValueSource;

/** Kept samples come back to the last bit, and silence and what two signals have in common take memory once or never. */
@DisplayNameGeneration(DisplayNameGenerator.ReplaceUnderscores.class)
class KeptSignalTest {
    private static final int CHUNK = SamplePool.CHUNK;
    private static final int FRAMES = 5 * CHUNK + 1_234;

    private final SamplePool pool = new SamplePool();

    @AfterEach
    void give_the_memory_back() {
        pool.close();
    }

    /** Noise with silences of all lengths, from a few frames to some chunks, and zeros of both signs. */
    private static float[] gappy(int seed) {
        Random random = new Random(seed);
        float[] samples = new float[FRAMES];
        int at = 0;
        while (at < FRAMES) {
            int length = 1 + (int) Math.exp(random.nextDouble() * Math.log(2.5 * CHUNK));
            boolean silent = random.nextBoolean();
            for (int i = at; i < Math.min(FRAMES, at + length); i++) {
                samples[i] = silent ? 0f : random.nextInt(8) == 0 ? -0f : (float) random.nextGaussian();
            }
            at += length;
        }
        return samples;
    }

    private static void write(KeptSignal kept, int plane, float[] samples, int from, int to, int block) {
        for (int at = from; at < to; at += block) {
            int count = Math.min(block, to - at);
            kept.write(plane, at, samples, at, count);
        }
    }

    private static float[] read(KeptSignal kept, int plane, int block) {
        float[] out = new float[FRAMES];
        float[] part = new float[block];
        Arrays.fill(part, Float.NaN);
        for (int at = 0; at < FRAMES; at += block) {
            int count = Math.min(block, FRAMES - at);
            kept.read(plane, at, part, count);
            System.arraycopy(part, 0, out, at, count);
        }
        return out;
    }

    /** Compares bits, so that zeros of either sign are not the same. */
    private static void assertSame(float[] found, float[] wanted) {
        assertThat(Arrays.mismatch(found, wanted))
                .as("first frame that is not the same")
                .isEqualTo(-1);
    }

    @ParameterizedTest
    @ValueSource(ints = {1, 64, 1_000, CHUNK, 40_000})
    void samples_come_back_whatever_the_blocks(int block) {
        for (int seed = 0; seed < 5; seed++) {
            float[] left = gappy(seed);
            float[] right = gappy(100 + seed);
            try (KeptSignal kept = new KeptSignal(pool, 2, FRAMES)) {
                write(kept, 0, left, 0, FRAMES, block);
                write(kept, 1, right, 0, FRAMES, block);
                assertSame(read(kept, 0, 777), left);
                assertSame(read(kept, 1, 777), right);
            }
        }
        assertThat(pool.usedBytes()).as("all given back").isZero();
    }

    /** Both threads come to the chunk in the middle, from its two ends. */
    @Test
    void two_threads_may_write_parts_that_meet_within_a_chunk() {
        for (int seed = 0; seed < 20; seed++) {
            float[] samples = gappy(seed);
            int middle = 2 * CHUNK + 500;
            try (KeptSignal kept = new KeptSignal(pool, 1, FRAMES)) {
                CompletableFuture<Void> first =
                        CompletableFuture.runAsync(() -> write(kept, 0, samples, 0, middle, 250));
                write(kept, 0, samples, middle, FRAMES, 250);
                first.join();
                assertSame(read(kept, 0, 1_024), samples);
            }
        }
        assertThat(pool.usedBytes()).as("all given back").isZero();
    }

    @Test
    void silence_takes_no_memory() {
        float[] samples = new float[FRAMES];
        samples[3 * CHUNK] = 1e-9f;
        try (KeptSignal kept = new KeptSignal(pool, 1, FRAMES)) {
            write(kept, 0, samples, 0, FRAMES, 512);
            assertThat(pool.usedBytes()).isEqualTo(SamplePool.CHUNK_BYTES);
            assertSame(read(kept, 0, 512), samples);
        }
    }

    /** As a delay reads it. */
    @ParameterizedTest
    @ValueSource(ints = {1, 300, CHUNK, CHUNK + 300})
    void before_its_first_frame_it_is_silent(int late) {
        float[] samples = gappy(3);
        float[] wanted = new float[FRAMES];
        System.arraycopy(samples, 0, wanted, late, FRAMES - late);
        try (KeptSignal kept = new KeptSignal(pool, 1, FRAMES)) {
            write(kept, 0, samples, 0, FRAMES, 512);
            float[] found = new float[FRAMES];
            Arrays.fill(found, Float.NaN);
            kept.read(0, -late, found, FRAMES);
            assertSame(found, wanted);
            kept.read(0, -FRAMES - 1L, found, FRAMES);
            assertSame(found, new float[FRAMES]);
        }
    }

    /** What another signal left in the memory must not come back as sound. */
    @Test
    void memory_is_used_again_and_silent_before_it_is_written() {
        float[] loud = new float[FRAMES];
        Arrays.fill(loud, 1);
        float[] samples = new float[FRAMES];
        for (int at = CHUNK - 1; at < FRAMES; at += CHUNK) {
            samples[at] = 0.5f;
        }
        for (int round = 0; round < 50; round++) {
            try (KeptSignal before = new KeptSignal(pool, 1, FRAMES)) {
                write(before, 0, loud, 0, FRAMES, 512);
            }
            try (KeptSignal kept = new KeptSignal(pool, 1, FRAMES)) {
                write(kept, 0, samples, 0, FRAMES, 512);
                assertSame(read(kept, 0, 512), samples);
            }
        }
        assertThat(pool.usedBytes() + pool.freeBytes())
                .as("one piece of memory for all hundred")
                .isEqualTo(64 * SamplePool.CHUNK_BYTES);
    }

    @ParameterizedTest
    @ValueSource(ints = {0, 1, CHUNK - 1, CHUNK, 2 * CHUNK + 7, FRAMES})
    void what_it_has_in_common_with_another_takes_no_memory_and_outlives_it(int common) {
        float[] samples = gappy(1);
        float[] changed = gappy(2);
        System.arraycopy(samples, 0, changed, 0, common);
        KeptSignal before = new KeptSignal(pool, 1, FRAMES);
        write(before, 0, samples, 0, FRAMES, 512);
        long used = pool.usedBytes();
        try (KeptSignal kept = new KeptSignal(pool, 1, FRAMES)) {
            kept.takeFirst(before, common);
            assertThat(pool.usedBytes() - used).as("a chunk at the edge").isLessThanOrEqualTo(SamplePool.CHUNK_BYTES);
            write(kept, 0, changed, common, FRAMES, 512);
            assertSame(read(before, 0, 512), samples);
            before.close();
            assertSame(read(kept, 0, 512), changed);
        }
        assertThat(pool.usedBytes()).as("all given back").isZero();
    }
}
