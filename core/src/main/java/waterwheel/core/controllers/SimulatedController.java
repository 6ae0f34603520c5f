package waterwheel.core.controllers;

import java.util.List;
import java.util.function.Consumer;

/**
 * A controller that is not there, for those who have none and for tests: eight faders of 14 bits (controls 0 to 7 with
 * their fine parts), eight knobs of 7 bits (controls 64 to 71) and eight buttons (notes 36 to 43), on channel 1. It sends
 * the very bytes that a real one would.
 */
public final class SimulatedController implements ControllerPort {
    public static final String NAME = "Simulated controller";
    /** How many there are of each. */
    public static final int PARTS = 8;

    private static final int CONTROL_CHANGE = 0xB0;
    private static final int NOTE_ON = 0x90;
    private static final int FIRST_KNOB = 64;
    private static final int FIRST_NOTE = 36;

    private MidiDecoder decoder = new MidiDecoder(NAME);
    private Consumer<ControllerMove> listener = move -> {};

    @Override
    public List<String> listen(Consumer<ControllerMove> heard) {
        decoder = new MidiDecoder(NAME);
        listener = heard;
        return List.of(NAME);
    }

    @Override
    public void close() {
        listener = move -> {};
    }

    /** Moves a fader, 0 to 7, to a place from 0 to 1. */
    public void fader(int number, double place) {
        int value = (int) Math.round(Math.clamp(place, 0, 1) * 16_383);
        send(CONTROL_CHANGE, number, value >> 7);
        send(CONTROL_CHANGE, number + 32, value & 127);
    }

    /** Turns a knob, 0 to 7, to a place from 0 to 1. */
    public void knob(int number, double place) {
        send(CONTROL_CHANGE, FIRST_KNOB + number, (int) Math.round(Math.clamp(place, 0, 1) * 127));
    }

    /** Presses a button, 0 to 7, or lets it go. */
    public void button(int number, boolean down) {
        send(NOTE_ON, FIRST_NOTE + number, down ? 127 : 0);
    }

    /**
     * Presses a key of its keyboard, or lets it go.
     *
     * @param velocity 1 to 127; 0 lets it go
     */
    public void key(int key, int velocity) {
        send(NOTE_ON, key, velocity);
    }

    private void send(int status, int data1, int data2) {
        decoder.take(status, data1, data2).ifPresent(listener);
    }
}
