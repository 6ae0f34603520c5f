package waterwheel.core.session;

import java.util.List;
import java.util.stream.IntStream;
import waterwheel.core.rack.Port;

/** Where a track's signal comes from. */
public sealed interface Feed {
    /** Parts of audio files on the song's line; overlapping ones are summed. */
    record Clips(List<Clip> clips) implements Feed {
        public Clips {
            clips = List.copyOf(clips);
        }
    }

    /** Another channel, somewhere on its way. */
    record Tapped(Tap tap) implements Feed {}

    /**
     * Inputs of the interface, as many as the track has planes, and what was recorded from them. What comes in is heard
     * while one works; a render knows only what was recorded.
     *
     * @param port the first input, from 1
     * @param listen when what comes in is heard
     */
    record Input(int port, Listen listen, List<Clip> clips) implements Feed {
        public Input {
            if (port < 1 || port > Port.MOST) {
                throw new IllegalArgumentException("port: " + port + " (expected: 1 to " + Port.MOST + ")");
            }
            clips = List.copyOf(clips);
        }

        /** The inputs that feed a track of so many planes. */
        public IntStream ports(int planes) {
            return IntStream.range(port, port + planes);
        }

        public Input withListen(Listen value) {
            return new Input(port, value, clips);
        }
    }

    /** Nothing yet. */
    static Feed none() {
        return new Clips(List.of());
    }
}
