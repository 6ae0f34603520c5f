package waterwheel.core.simulation;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.within;

import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.OptionalDouble;
import java.util.Random;
import org.junit.jupiter.api.DisplayNameGeneration;
import org.junit.jupiter.api.DisplayNameGenerator;
import org.junit.jupiter.api.Test;
import waterwheel.core.outboard.LoopAnswer;
import waterwheel.core.outboard.LoopAsk;
import waterwheel.core.outboard.LoopTimer;
import waterwheel.core.ports.ForwardingPort;
import waterwheel.core.processing.Biquad;
import waterwheel.core.rack.Cable;
import waterwheel.core.rack.Driver;
import waterwheel.core.rack.Expectation;
import waterwheel.core.rack.LoopTiming;
import waterwheel.core.rack.Rack;
import waterwheel.core.rack.Unit;
import waterwheel.core.rack.UnitId;
import waterwheel.core.work.Progress;

/** Random loops through the simulated interface, whose truth is known by what they were made with. */
@DisplayNameGeneration(DisplayNameGenerator.ReplaceUnderscores.class)
class LoopTimingTest {
    private static final int RATE = 48_000;
    private static final int BLOCK = 256;
    private static final double FULL_SCALE_DBU = 18;

    /** A loop with its truth. */
    private record Made(UnitDescription unit, double latencyFrames, boolean inverted, double gainDb) {}

    private static Made random(Random random) {
        double latency = 6_000 * random.nextDouble() - BLOCK - SimulatedUnit.CONVERTER_FRAMES;
        latency = Math.max(40, latency);
        double gainDb = -40 + 60 * random.nextDouble();
        double low = random.nextBoolean() ? 10 : 10 * Math.pow(8, random.nextDouble());
        double high = random.nextBoolean() ? 22_000 : 12_000 * Math.pow(1.8, random.nextDouble());
        boolean inverted = random.nextBoolean();
        double noiseDbfs = -100 + 60 * random.nextDouble();
        boolean hums = random.nextBoolean();
        double humDbfs = -80 + 30 * random.nextDouble();
        UnitDescription unit = new UnitDescription(
                "made",
                "Made",
                1,
                Expectation.LINE,
                false,
                latency / RATE,
                inverted,
                noiseDbfs + FULL_SCALE_DBU,
                hums ? OptionalDouble.of(random.nextBoolean() ? 50 : 60) : OptionalDouble.empty(),
                humDbfs + FULL_SCALE_DBU,
                List.of(),
                List.of(
                        new UnitPart(UnitPart.Kind.GAIN, Map.of("db", UnitSetting.of(gainDb))),
                        new UnitPart(
                                UnitPart.Kind.BAND,
                                Map.of("lowHz", UnitSetting.of(low), "highHz", UnitSetting.of(high)))));
        double truth = BLOCK + SimulatedUnit.CONVERTER_FRAMES + latency + largest(low, high);
        return new Made(unit, truth, inverted, gainDb);
    }

    /**
     * Where the band's own impulse response is largest, in frames: from the filters' coefficients, as a sum of cosines on
     * a grid of a thousandth of a frame.
     */
    private static double largest(double low, double high) {
        double[] c = new double[2 * Biquad.SIZE];
        Biquad.highPass(c, 0, low, Math.sqrt(0.5), RATE);
        Biquad.lowPass(c, Biquad.SIZE, high, Math.sqrt(0.5), RATE);
        int bins = 4_096;
        double[] re = new double[bins + 1];
        double[] im = new double[bins + 1];
        for (int k = 0; k <= bins; k++) {
            double w = Math.PI * k / bins;
            double real = 1;
            double imaginary = 0;
            for (int f = 0; f < 2; f++) {
                int at = f * Biquad.SIZE;
                double nr = c[at] + c[at + 1] * Math.cos(w) + c[at + 2] * Math.cos(2 * w);
                double ni = -c[at + 1] * Math.sin(w) - c[at + 2] * Math.sin(2 * w);
                double dr = 1 + c[at + 3] * Math.cos(w) + c[at + 4] * Math.cos(2 * w);
                double di = -c[at + 3] * Math.sin(w) - c[at + 4] * Math.sin(2 * w);
                double square = dr * dr + di * di;
                double qr = (nr * dr + ni * di) / square;
                double qi = (ni * dr - nr * di) / square;
                double r = real * qr - imaginary * qi;
                imaginary = real * qi + imaginary * qr;
                real = r;
            }
            re[k] = real;
            im[k] = imaginary;
        }
        double best = 0;
        double most = 0;
        for (double step : new double[] {0.05, 0.001}) {
            double from = step == 0.05 ? 0 : best - 0.05;
            double to = step == 0.05 ? 4 : best + 0.05;
            for (double t = from; t <= to; t += step) {
                double sum = 0;
                for (int k = 0; k <= bins; k++) {
                    double w = Math.PI * k / bins;
                    double weight = k == 0 || k == bins ? 0.5 : 1;
                    sum += weight * (re[k] * Math.cos(w * t) - im[k] * Math.sin(w * t));
                }
                if (Math.abs(sum) > most) {
                    most = Math.abs(sum);
                    best = t;
                }
            }
        }
        return best;
    }

    private static LoopTimer timer(List<UnitDescription> units, List<Cable> cables) throws Exception {
        List<Unit> rack = new ArrayList<>();
        for (int i = 0; i < units.size(); i++) {
            rack.add(units.get(i).unit(new UnitId("u" + i)));
        }
        SimulatedInterface port =
                new SimulatedInterface(new Rack(Driver.SIMULATED, 1, List.of(), rack, cables), false, units);
        port.open(RATE, BLOCK);
        return new LoopTimer(port, RATE, BLOCK);
    }

    private static Cable cable(int unit, int output, int input) {
        return new Cable(Optional.of(new UnitId("u" + unit)), output, input);
    }

    @Test
    void of_three_hundred_loops_290_are_answered_and_each_answer_is_right() throws Exception {
        Random random = new Random(20);
        int answered = 0;
        List<String> wrong = new ArrayList<>();
        for (int batch = 0; batch < 300; batch += 6) {
            List<Made> made = new ArrayList<>();
            List<Cable> cables = new ArrayList<>();
            List<LoopAsk> asks = new ArrayList<>();
            for (int i = 0; i < 6; i++) {
                made.add(random(random));
                cables.add(cable(i, i + 1, 8 - i));
                asks.add(new LoopAsk(i + 1, 8 - i));
            }
            List<LoopAnswer> answers =
                    timer(made.stream().map(Made::unit).toList(), cables).time(asks, Progress.NONE);
            for (int i = 0; i < 6; i++) {
                if (!(answers.get(i) instanceof LoopAnswer.Timed timed)) {
                    continue;
                }
                answered++;
                Made truth = made.get(i);
                double off = timed.timing().latencyFrames() - truth.latencyFrames();
                boolean polarity = timed.timing().inverted() == truth.inverted();
                if (!polarity || Math.abs(off) > 0.05) {
                    wrong.add(truth + ": off by " + off + ", polarity " + polarity + ", confidence "
                            + timed.timing().confidenceDb());
                }
            }
        }
        assertThat(wrong).isEmpty();
        assertThat(answered).isGreaterThanOrEqualTo(290);
    }

    @Test
    void of_sixty_dead_or_crossed_ways_none_is_given_a_latency() throws Exception {
        Random random = new Random(21);
        for (int batch = 0; batch < 60; batch += 6) {
            List<UnitDescription> units = new ArrayList<>();
            List<Cable> cables = new ArrayList<>();
            List<LoopAsk> asks = new ArrayList<>();
            for (int i = 0; i < 6; i++) {
                UnitDescription unit = random(random).unit();
                boolean dead = random.nextBoolean();
                units.add(dead ? off(unit) : unit);
                // Each is plugged into its neighbour's output.
                cables.add(cable(i, (i + 1) % 6 + 1, i + 1));
                asks.add(new LoopAsk(i + 1, i + 1));
            }
            for (LoopAnswer answer : timer(units, cables).time(asks, Progress.NONE)) {
                assertThat(answer).isNotInstanceOf(LoopAnswer.Timed.class);
            }
            // Timed alone, a crossed way answers nothing at all.
            assertThat(timer(units, cables)
                            .time(List.of(asks.getFirst()), Progress.NONE)
                            .getFirst())
                    .isEqualTo(new LoopAnswer.Nothing());
        }
    }

    /** A unit that is switched off but for its noise and its hum. */
    private static UnitDescription off(UnitDescription unit) {
        return new UnitDescription(
                unit.key(),
                unit.name(),
                1,
                unit.expects(),
                false,
                unit.latencySeconds(),
                unit.inverted(),
                unit.noiseDbu(),
                unit.humHz(),
                unit.humDbu(),
                List.of(),
                List.of(new UnitPart(UnitPart.Kind.GAIN, Map.of("db", UnitSetting.of(-400)))));
    }

    @Test
    void noise_hum_and_gain_are_told_as_they_are() throws Exception {
        UnitDescription unit = new UnitDescription(
                "made",
                "Made",
                1,
                Expectation.LINE,
                false,
                0.01,
                false,
                -70 + FULL_SCALE_DBU,
                OptionalDouble.of(60),
                -62 + FULL_SCALE_DBU,
                List.of(),
                List.of(new UnitPart(UnitPart.Kind.GAIN, Map.of("db", UnitSetting.of(-6)))));
        LoopAnswer answer = timer(List.of(unit), List.of(cable(0, 3, 5)))
                .time(List.of(new LoopAsk(3, 5)), Progress.NONE)
                .getFirst();
        LoopTiming timing = ((LoopAnswer.Timed) answer).timing();
        assertThat(timing.gainDb()).isCloseTo(-6, within(0.05));
        assertThat(timing.humHz()).hasValue(60);
        assertThat(timing.humDbfs()).isCloseTo(-62, within(0.5));
        // Noise of -70 and hum of -62 and -72 dBFS together, by power.
        double both = 10 * Math.log10(Math.pow(10, -7) + Math.pow(10, -6.2) + Math.pow(10, -7.2));
        assertThat(timing.noiseDbfs()).isCloseTo(both, within(0.3));
        // Near the hum and its harmonics the response is the hum's as well.
        assertThat(((LoopAnswer.Timed) answer).response())
                .filteredOn(gain -> gain.hertz() > 250)
                .allSatisfy(gain ->
                        assertThat(gain.db()).as("at " + gain.hertz() + " Hz").isCloseTo(-6, within(0.3)));
    }

    @Test
    void a_way_that_clips_at_its_input_is_called_that() throws Exception {
        UnitDescription loud = new UnitDescription(
                "made",
                "Made",
                1,
                Expectation.LINE,
                false,
                0,
                false,
                Double.NEGATIVE_INFINITY,
                OptionalDouble.of(50),
                6 + FULL_SCALE_DBU,
                List.of(),
                List.of());
        assertThat(timer(List.of(loud), List.of(cable(0, 1, 1)))
                        .time(List.of(new LoopAsk(1, 1)), Progress.NONE)
                        .getFirst())
                .isEqualTo(new LoopAnswer.Clipped());
    }

    /** What a port has passed on. */
    private static final class Counted extends ForwardingPort {
        private long frames;

        Counted(SimulatedInterface port) {
            super(port);
        }

        @Override
        public void write(float[][] out, int count) {
            frames += count;
            super.write(out, count);
        }
    }

    @Test
    void eight_loops_are_timed_within_seven_seconds_of_sound() throws Exception {
        List<Cable> cables = new ArrayList<>();
        List<LoopAsk> asks = new ArrayList<>();
        for (int i = 1; i <= 8; i++) {
            cables.add(new Cable(Optional.empty(), i, i));
            asks.add(new LoopAsk(i, i));
        }
        Counted port =
                new Counted(new SimulatedInterface(new Rack(Driver.SIMULATED, 1, List.of(), List.of(), cables), false));
        port.open(RATE, BLOCK);
        assertThat(new LoopTimer(port, RATE, BLOCK).time(asks, Progress.NONE)).allSatisfy(answer -> assertThat(
                        ((LoopAnswer.Timed) answer).timing().latencyFrames())
                .isCloseTo(320, within(0.001)));
        assertThat((double) port.frames / RATE).isLessThan(7);
    }
}
