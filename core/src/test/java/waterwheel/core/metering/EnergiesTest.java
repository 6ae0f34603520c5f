package waterwheel.core.metering;

import static org.assertj.core.api.Assertions.assertThat;

import java.util.Random;
import org.junit.jupiter.api.Test;

/** Windows by arrays against the same windows asked for one by one. */
final class EnergiesTest {
    private static final int TRIALS = 60;
    private static final int[] RATES = {44_100, 48_000, 22_050, 11_025};

    private final Random random = new Random(7_301);

    @Test
    void every_window_is_its_energy_by_its_frames_whatever_the_stretch_and_the_gains() {
        for (int trial = 0; trial < TRIALS; trial++) {
            LevelSeries series = anySeries();
            int length = 1 + random.nextInt(40);
            int hop = 1 + random.nextInt(12);
            double[][] plain = new double[series.planes()][];
            for (int plane = 0; plane < series.planes(); plane++) {
                plain[plane] = Energies.plain(series).meanSquares(plane, length, hop);
                assertThat(plain[plane]).hasSize(windows(series, length, hop));
            }
            double[] weighted = Energies.weighted(series).meanSquaresOfAll(length, hop);
            for (int w = 0; w < weighted.length; w++) {
                double sum = 0;
                for (int plane = 0; plane < series.planes(); plane++) {
                    double energy = series.energy(plane, w * hop, length);
                    assertThat(plain[plane][w]).isEqualTo(energy / series.framesOf(w * hop, length));
                    sum += series.weightedEnergy(plane, w * hop, length);
                }
                assertThat(weighted[w]).isEqualTo(sum / series.framesOf(w * hop, length));
            }
        }
    }

    @Test
    void a_song_shorter_than_a_window_has_none() {
        LevelSeries series = measured(48_000, 1, 48_000 / 100 * 5);
        assertThat(Energies.plain(series).meanSquares(0, 6, 1)).isEmpty();
        assertThat(Energies.plain(series).meanSquares(0, 5, 1)).hasSize(1);
        assertThat(Energies.weighted(LevelSeries.silence(48_000, 2, 0)).meanSquaresOfAll(1, 1))
                .isEmpty();
    }

    private static int windows(LevelSeries series, int length, int hop) {
        int count = 0;
        while (count * hop + length <= series.completeSteps()) {
            count++;
        }
        return count;
    }

    private LevelSeries anySeries() {
        int planes = 1 + random.nextInt(2);
        int rate = RATES[random.nextInt(RATES.length)];
        LevelSeries series = measured(rate, planes, rate + random.nextInt(rate));
        if (random.nextBoolean()) {
            long from = random.nextInt(rate);
            series = series.during(from, from + random.nextInt(rate));
        }
        if (random.nextBoolean()) {
            double[][] gains = new double[2][planes];
            gains[0][random.nextInt(planes)] = random.nextDouble(2);
            gains[1][random.nextInt(planes)] = -random.nextDouble(2);
            series = series.through(gains);
        }
        return series;
    }

    private LevelSeries measured(int rate, int planes, int frames) {
        SeriesMeter meter = new SeriesMeter(rate, planes, frames, Detail.EVERYTHING);
        float[][] block = new float[planes][frames];
        for (float[] plane : block) {
            for (int i = 0; i < frames; i++) {
                plane[i] = random.nextFloat(-1, 1);
            }
        }
        meter.process(block, 0, frames);
        return meter.finish();
    }
}
