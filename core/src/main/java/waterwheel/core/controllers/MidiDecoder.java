package waterwheel.core.controllers;

import java.util.Arrays;
import java.util.Optional;
import waterwheel.core.controllers.ControllerPart.Kind;

/**
 * Reads one controller's channel messages (MIDI 1.0 Detailed Specification 4.2). Control changes 0 to 31 may be followed
 * by the fine part of their value as control change 32 higher. Since many controllers send those numbers for parts of
 * their own, two are taken for one value once the fine part has followed at once a few times. One thread at a time.
 */
public final class MidiDecoder {
    private static final int NOTE_OFF = 0x80;
    private static final int NOTE_ON = 0x90;
    private static final int CONTROL_CHANGE = 0xB0;
    private static final int PITCH_BEND = 0xE0;
    /** Numbers of coarse parts lie below this, their fine parts by as much higher. */
    private static final int FINE = 32;

    private static final int PAIRED = 3;
    private static final double MOST_7 = 127;
    private static final double MOST_14 = 16_383;

    private final String device;
    /** By channel and number: how often the fine part followed at once, and the coarse part that came last. */
    private final int[][] followed = new int[16][FINE];

    private final int[][] coarse = new int[16][FINE];
    private int lastChannel = -1;
    private int lastNumber = -1;

    public MidiDecoder(String device) {
        this.device = device;
        for (int[] row : coarse) {
            Arrays.fill(row, -1);
        }
    }

    /**
     * Takes a short message.
     *
     * @param status its status byte, 0 to 255
     * @param data1 first data byte, 0 to 127
     * @param data2 second data byte, 0 to 127
     * @return what it says of a part; empty for other messages, and for a value that is not whole yet
     */
    public Optional<ControllerMove> take(int status, int data1, int data2) {
        int channel = status & 0x0F;
        return switch (status & 0xF0) {
            case CONTROL_CHANGE -> control(channel, data1, data2);
            case PITCH_BEND -> move(Kind.BEND, channel, 0, (data1 + (data2 << 7)) / MOST_14);
            case NOTE_ON ->
                Optional.of(new ControllerMove(
                        new ControllerPart(device, Kind.NOTE, channel + 1, data1), data2 > 0 ? 1 : 0, data2));
            case NOTE_OFF -> move(Kind.NOTE, channel, data1, 0);
            default -> Optional.empty();
        };
    }

    private Optional<ControllerMove> control(int channel, int number, int value) {
        boolean follows = lastChannel == channel && lastNumber == number - FINE;
        lastChannel = channel;
        lastNumber = number;
        if (number < FINE) {
            coarse[channel][number] = value;
            // The fine part is about to follow.
            return followed[channel][number] >= PAIRED
                    ? Optional.empty()
                    : move(Kind.CONTROL, channel, number, value / MOST_7);
        }
        if (number < 2 * FINE && coarse[channel][number - FINE] >= 0) {
            int whole = number - FINE;
            if (follows && followed[channel][whole] < PAIRED) {
                followed[channel][whole]++;
            }
            if (followed[channel][whole] >= PAIRED) {
                return move(Kind.CONTROL, channel, whole, ((coarse[channel][whole] << 7) + value) / MOST_14);
            }
            if (follows) {
                return Optional.empty();
            }
        }
        return move(Kind.CONTROL, channel, number, value / MOST_7);
    }

    private Optional<ControllerMove> move(Kind kind, int channel, int number, double place) {
        return Optional.of(new ControllerMove(new ControllerPart(device, kind, channel + 1, number), place));
    }
}
