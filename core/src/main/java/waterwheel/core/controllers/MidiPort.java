package waterwheel.core.controllers;

import java.util.ArrayList;
import java.util.List;
import java.util.function.Consumer;
import javax.sound.midi.MidiDevice;
import javax.sound.midi.MidiMessage;
import javax.sound.midi.MidiSystem;
import javax.sound.midi.MidiUnavailableException;
import javax.sound.midi.Receiver;
import javax.sound.midi.Sequencer;
import javax.sound.midi.ShortMessage;
import javax.sound.midi.Synthesizer;

/** The MIDI inputs of this machine. One that another program holds is left out. */
public final class MidiPort implements ControllerPort {
    private final List<MidiDevice> open = new ArrayList<>();

    @Override
    public synchronized List<String> listen(Consumer<ControllerMove> listener) {
        close();
        List<String> names = new ArrayList<>();
        for (MidiDevice.Info info : MidiSystem.getMidiDeviceInfo()) {
            String name = free(info.getName(), names);
            if (opens(info, new Listening(new MidiDecoder(name), listener))) {
                names.add(name);
            }
        }
        return names;
    }

    /** Whether it is an input, and no other program has it. */
    private boolean opens(MidiDevice.Info info, Listening listening) {
        try {
            MidiDevice device = MidiSystem.getMidiDevice(info);
            boolean sends = device.getMaxTransmitters() != 0
                    && !(device instanceof Sequencer)
                    && !(device instanceof Synthesizer);
            if (sends) {
                device.open();
                open.add(device);
                device.getTransmitter().setReceiver(listening);
            }
            return sends;
        } catch (MidiUnavailableException e) {
            return false;
        }
    }

    private static String free(String name, List<String> taken) {
        String free = name;
        for (int number = 2; taken.contains(free); number++) {
            free = name + " " + number;
        }
        return free;
    }

    @Override
    public synchronized void close() {
        open.forEach(MidiDevice::close);
        open.clear();
    }

    /** Reads what one device sends, on its thread. */
    record Listening(MidiDecoder decoder, Consumer<ControllerMove> listener) implements Receiver {
        @Override
        public void send(MidiMessage message, long timeStamp) {
            if (message instanceof ShortMessage brief) {
                decoder.take(brief.getStatus(), brief.getData1(), brief.getData2())
                        .ifPresent(listener);
            }
        }

        @Override
        public void close() {}
    }
}
