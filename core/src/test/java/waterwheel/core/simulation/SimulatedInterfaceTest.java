package waterwheel.core.simulation;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.within;

import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import org.junit.jupiter.api.DisplayNameGeneration;
import org.junit.jupiter.api.DisplayNameGenerator;
import org.junit.jupiter.api.Test;
import waterwheel.core.rack.Cable;
import waterwheel.core.rack.Driver;
import waterwheel.core.rack.Expectation;
import waterwheel.core.rack.Knob;
import waterwheel.core.rack.Port;
import waterwheel.core.rack.PortSide;
import waterwheel.core.rack.Rack;
import waterwheel.core.rack.Reamplifier;
import waterwheel.core.rack.Unit;
import waterwheel.core.rack.UnitId;
import waterwheel.core.testing.Signals;

@DisplayNameGeneration(DisplayNameGenerator.ReplaceUnderscores.class)
class SimulatedInterfaceTest {
    private static final int RATE = 48_000;
    private static final UnitId U = new UnitId("u");

    private static Rack rack(Unit unit) {
        return new Rack(Driver.SIMULATED, 1, List.of(), List.of(unit), List.of(new Cable(Optional.of(U), 1, 2)));
    }

    private static Unit unit(String key) {
        return SimulatedUnits.unit(key, U);
    }

    /** What comes back to input 2 of what output 1 is given, in blocks of 100 frames of a buffer of 256. */
    private static float[] through(Rack rack, float[] signal) {
        return through(rack, signal, 100);
    }

    private static float[] through(Rack rack, float[] signal, int block) {
        SimulatedInterface port = new SimulatedInterface(rack, false);
        port.open(RATE, 256);
        float[][] in = new float[8][256];
        float[][] out = new float[8][256];
        float[] back = new float[signal.length];
        for (int at = 0; at < signal.length; at += block) {
            int count = Math.min(block, signal.length - at);
            port.read(in, count);
            System.arraycopy(in[1], 0, back, at, count);
            System.arraycopy(signal, at, out[0], 0, count);
            port.write(out, count);
        }
        return back;
    }

    /** RMS of the second half, as a sine's, dBFS. */
    private static double db(float[] signal) {
        double sum = 0;
        for (int i = signal.length / 2; i < signal.length; i++) {
            sum += signal[i] * signal[i];
        }
        return 10 * Math.log10(2 * sum / (signal.length - signal.length / 2));
    }

    @Test
    void a_cable_gives_back_each_24_bit_step_320_frames_later_in_blocks_of_any_size() {
        Rack cable = Rack.NONE.withCables(List.of(new Cable(Optional.empty(), 1, 2)));
        float[] noise = Signals.noise(0.9, 20_000, 5);
        for (int block : new int[] {1, 100, 256}) {
            float[] back = through(cable, noise, block);
            for (int i = 320; i < noise.length; i++) {
                assertThat(back[i]).isEqualTo((float) (Math.rint(noise[i - 320] * 8_388_608.0) / 8_388_608));
            }
        }
    }

    @Test
    void converters_clip_at_full_scale_and_ports_have_their_own() {
        Rack cable = Rack.NONE
                .withCables(List.of(new Cable(Optional.empty(), 1, 2)))
                .withPort(new Port(PortSide.INPUT, 2, "", 24));
        float[] back = through(cable, Signals.sine(1_000, 6, RATE, 1));
        float most = 0;
        for (float sample : back) {
            most = Math.max(most, sample);
        }
        // Clipped at the output's +18 dBu, which is 6 dB below the input's full scale.
        assertThat(20 * Math.log10(most)).isCloseTo(-6, within(0.01));
    }

    @Test
    void what_is_not_plugged_in_or_is_of_metal_gives_nothing_back() {
        Unit metal = new Unit(U, "Box", 1, Expectation.LINE, Optional.empty(), List.of(), "", "");
        assertThat(through(rack(metal), Signals.noise(0.5, 5_000, 1))).containsOnly(0f);
        assertThat(through(rack(metal).withCables(List.of()), Signals.noise(0.5, 5_000, 1)))
                .containsOnly(0f);
    }

    @Test
    void the_same_signal_gives_the_same_samples_every_time() {
        for (String key : SimulatedUnits.names().keySet()) {
            float[] signal = Signals.noise(0.3, 30_000, 9);
            assertThat(through(rack(unit(key)), signal)).as(key).isEqualTo(through(rack(unit(key)), signal, 256));
        }
    }

    @Test
    void every_unit_is_quieter_than_its_noise_says_no_more_than_it_says_and_passes_a_sine() {
        for (String key : SimulatedUnits.names().keySet()) {
            Unit one = unit(key).withReamplifier(unit(key).reamplifier().map(r -> new Reamplifier(20, true, 10_000)));
            UnitDescription described = SimulatedUnits.find(key).orElseThrow();
            double silence = db(through(rack(one), new float[RATE]));
            double hum = described.humHz().isPresent() && one.reamplifier().isEmpty() ? described.humDbu() : -200;
            double wanted = 10 * Math.log10(Math.pow(10, described.noiseDbu() / 10) + 1.1 * Math.pow(10, hum / 10));
            assertThat(silence).as(key).isCloseTo(wanted - 18, within(0.5));
            assertThat(db(through(rack(one), Signals.sine(1_000, -18, RATE, 2))))
                    .as(key)
                    .isBetween(-36.0, -6.0);
        }
    }

    @Test
    void a_pedal_at_its_own_level_sounds_and_at_line_level_breaks_and_hums_until_its_ground_is_lifted() {
        Unit pedal = unit("drive");
        Unit gentle = knob(pedal, "Grit", 0);
        // Harmonics of a sine, as a part of all that comes back, with and without the pad of the re-amplifier.
        assertThat(distortionDb(gentle.withReamplifier(Optional.of(new Reamplifier(20, true, 10_000)))))
                .isLessThan(-18);
        assertThat(distortionDb(gentle.withReamplifier(Optional.of(new Reamplifier(0, true, 10_000)))))
                .isGreaterThan(-11);
        double humming = db(through(rack(pedal), new float[RATE]));
        double lifted = db(
                through(rack(pedal.withReamplifier(Optional.of(new Reamplifier(20, true, 10_000)))), new float[RATE]));
        assertThat(humming - lifted).isGreaterThan(30);
    }

    private static Unit knob(Unit unit, String name, double value) {
        List<Knob> knobs = new ArrayList<>(unit.knobs());
        knobs.replaceAll(knob -> knob.name().equals(name) ? knob.withValue(value) : knob);
        return unit.withKnobs(knobs);
    }

    private static double distortionDb(Unit unit) {
        float[] back = through(rack(unit), Signals.sine(500, -18, RATE, 2));
        double c = 0;
        double s = 0;
        double mean = 0;
        int half = back.length / 2;
        for (int i = half; i < back.length; i++) {
            c += back[i] * Math.cos(2 * Math.PI * 500 * i / RATE) * 2 / half;
            s += back[i] * Math.sin(2 * Math.PI * 500 * i / RATE) * 2 / half;
            mean += back[i] / half;
        }
        double rest = 0;
        double all = 0;
        for (int i = half; i < back.length; i++) {
            double angle = 2 * Math.PI * 500 * i / RATE;
            double error = back[i] - mean - c * Math.cos(angle) - s * Math.sin(angle);
            rest += error * error;
            all += back[i] * back[i];
        }
        return 10 * Math.log10(rest / all);
    }

    @Test
    void the_leveller_holds_down_what_is_loud_by_three_parts_in_four() {
        Unit leveller = knob(knob(unit("leveller"), "Hold down", 7.5), "Lift", 0);
        double soft = db(through(rack(leveller), Signals.sine(1_000, -18, RATE, 4)));
        double loud = db(through(rack(leveller), Signals.sine(1_000, -8, RATE, 4)));
        assertThat(loud - soft).isCloseTo(2.5, within(0.2));
    }

    @Test
    void the_equaliser_turns_the_polarity() {
        float[] back = through(rack(unit("tone")), Signals.sine(1_000, -18, RATE, 0.2));
        float[] sent = Signals.sine(1_000, -18, RATE, 0.2);
        double product = 0;
        int late = 320 + 1;
        for (int i = 2_000; i < back.length; i++) {
            product += back[i] * sent[i - late];
        }
        assertThat(product).isNegative();
    }
}
