package waterwheel.core.controllers;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;
import static org.assertj.core.api.Assertions.within;

import java.util.ArrayList;
import java.util.List;
import java.util.SplittableRandom;
import javax.sound.midi.ShortMessage;
import org.junit.jupiter.api.DisplayNameGeneration;
import org.junit.jupiter.api.DisplayNameGenerator;
import org.junit.jupiter.api.Test;
import waterwheel.core.controllers.ControllerPart.Kind;

/** What MIDI messages say, by the specification's bytes, and when a part takes a control up. */
@DisplayNameGeneration(DisplayNameGenerator.ReplaceUnderscores.class)
class ControllersTest {
    private static final ControllerPart PART = new ControllerPart("d", Kind.CONTROL, 1, 7);

    private final MidiDecoder decoder = new MidiDecoder("d");

    private ControllerMove move(int status, int data1, int data2) {
        return decoder.take(status, data1, data2).orElseThrow();
    }

    @Test
    void a_control_change_has_seven_bits_and_its_channel() {
        assertThat(move(0xB0, 7, 127)).isEqualTo(new ControllerMove(PART, 1));
        assertThat(move(0xB0, 7, 0).place()).isZero();
        assertThat(move(0xBF, 7, 64).part().channel()).isEqualTo(16);
        assertThat(move(0xBF, 7, 64).place()).isEqualTo(64 / 127.0);
    }

    @Test
    void a_bend_has_fourteen_bits_with_the_fine_part_first() {
        assertThat(move(0xE2, 0, 64).part()).isEqualTo(new ControllerPart("d", Kind.BEND, 3, 0));
        assertThat(move(0xE2, 127, 127).place()).isEqualTo(1);
        // The specification's middle, 2000H.
        assertThat(move(0xE2, 0, 64).place()).isEqualTo(8_192 / 16_383.0);
        assertThat(move(0xE2, 1, 0).place()).isEqualTo(1 / 16_383.0);
    }

    @Test
    void a_note_is_a_button_that_velocity_zero_lets_go_too() {
        assertThat(move(0x90, 36, 5)).isEqualTo(new ControllerMove(new ControllerPart("d", Kind.NOTE, 1, 36), 1, 5));
        assertThat(move(0x90, 36, 0).place()).isZero();
        assertThat(move(0x80, 36, 64).place()).isZero();
    }

    @Test
    void what_is_no_part_says_nothing() {
        // Programme change, channel pressure, clock.
        for (int status : new int[] {0xC0, 0xD0, 0xF8}) {
            assertThat(decoder.take(status, 1, 1)).isEmpty();
        }
    }

    @Test
    void a_coarse_part_that_a_fine_one_follows_again_and_again_is_one_value_of_fourteen_bits() {
        List<ControllerMove> moves = new ArrayList<>();
        for (int value = 5_000; value < 5_010; value++) {
            decoder.take(0xB0, 7, value >> 7).ifPresent(moves::add);
            decoder.take(0xB0, 39, value & 127).ifPresent(moves::add);
        }
        assertThat(moves).allSatisfy(move -> assertThat(move.part()).isEqualTo(PART));
        // Once known, each pair is one move, exact.
        assertThat(moves.getLast().place()).isEqualTo(5_009 / 16_383.0);
        assertThat(moves.get(moves.size() - 2).place()).isEqualTo(5_008 / 16_383.0);
    }

    @Test
    void a_part_of_its_own_among_the_fine_numbers_stays_one() {
        for (int i = 0; i < 20; i++) {
            assertThat(move(0xB0, 40, i).part().number()).isEqualTo(40);
        }
        for (int i = 0; i < 20; i++) {
            move(0xB0, 8, i);
            move(0xB0, 8, i);
        }
        assertThat(move(0xB0, 41, 3).part().number()).isEqualTo(41);
        assertThat(move(0xB0, 8, 3).place()).isEqualTo(3 / 127.0);
    }

    @Test
    void the_simulated_controller_is_heard_to_fourteen_bits() {
        SimulatedController controller = new SimulatedController();
        List<ControllerMove> moves = new ArrayList<>();
        assertThat(controller.listen(moves::add)).containsExactly(SimulatedController.NAME);
        SplittableRandom random = new SplittableRandom(1);
        for (int i = 0; i < 100; i++) {
            double place = random.nextDouble();
            controller.fader(3, place);
            if (i > 3) {
                assertThat(moves.getLast().place()).isCloseTo(place, within(0.5 / 16_383));
            }
        }
        controller.knob(2, 0.5);
        assertThat(moves.getLast().part().number()).isEqualTo(66);
        controller.button(7, true);
        assertThat(moves.getLast())
                .isEqualTo(new ControllerMove(new ControllerPart(SimulatedController.NAME, Kind.NOTE, 1, 43), 1, 127));
        int before = moves.size();
        controller.close();
        controller.knob(2, 0.7);
        assertThat(moves).hasSize(before);
    }

    @Test
    void real_inputs_are_looked_for_and_their_messages_read() throws Exception {
        try (MidiPort port = new MidiPort()) {
            // This machine has what it has; looking does no harm, twice neither.
            assertThat(port.listen(move -> {})).doesNotHaveDuplicates();
            assertThat(port.listen(move -> {})).doesNotHaveDuplicates();
        }
        List<ControllerMove> moves = new ArrayList<>();
        var listening = new MidiPort.Listening(decoder, moves::add);
        listening.send(new ShortMessage(ShortMessage.CONTROL_CHANGE, 0, 7, 127), -1);
        listening.send(new javax.sound.midi.SysexMessage(new byte[] {(byte) 0xF0, 1, (byte) 0xF7}, 3), -1);
        assertThat(moves).containsExactly(new ControllerMove(PART, 1));
    }

    @Test
    void a_control_is_taken_up_where_it_is_met_and_not_before() {
        Pickup pickup = new Pickup();
        assertThat(pickup.takes(PART, 0.75, 0.1)).isFalse();
        assertThat(pickup.takes(PART, 0.75, 0.6)).isFalse();
        // It passes by in one step.
        assertThat(pickup.takes(PART, 0.75, 0.8)).isTrue();
        assertThat(pickup.takes(PART, 0.8, 0.9)).isTrue();
        // Another hand has moved the control.
        assertThat(pickup.takes(PART, 0.2, 0.95)).isFalse();
        assertThat(pickup.takes(PART, 0.2, 0.205)).isTrue();
        pickup.forget(PART);
        assertThat(pickup.takes(PART, 0.6, 0.1)).isFalse();
    }

    @Test
    void whatever_a_part_does_the_control_never_jumps_but_by_the_parts_own_step() {
        SplittableRandom random = new SplittableRandom(2);
        for (int run = 0; run < 200; run++) {
            Pickup pickup = new Pickup();
            double control = random.nextDouble();
            double part = random.nextDouble();
            pickup.takes(PART, control, part);
            for (int i = 0; i < 300; i++) {
                if (random.nextInt(50) == 0) {
                    control = random.nextDouble();
                }
                double to = Math.clamp(part + (random.nextDouble() - 0.5) * 0.1, 0, 1);
                double before = control;
                if (pickup.takes(PART, control, to)) {
                    control = to;
                }
                assertThat(Math.abs(control - before)).isLessThanOrEqualTo(Math.abs(to - part) + 0.0101);
                part = to;
            }
        }
    }

    @Test
    void numbers_that_no_message_has_are_refused() {
        assertThatThrownBy(() -> new ControllerPart("d", Kind.NOTE, 0, 1)).hasMessageContaining("1 to 16");
        assertThatThrownBy(() -> new ControllerPart("d", Kind.NOTE, 1, 128)).hasMessageContaining("0 to 127");
    }
}
