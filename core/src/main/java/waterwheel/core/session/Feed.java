package waterwheel.core.session;

import java.util.List;
import java.util.stream.IntStream;
import waterwheel.core.instruments.Instrument;
import waterwheel.core.notes.Notes;
import waterwheel.core.rack.Port;
import waterwheel.core.units.Ranges;

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

    /**
     * Notes that an instrument plays. Its other outputs may feed tracks of their own.
     *
     * @param output which of the instrument's outputs feeds this track, from 1
     */
    record Played(Instrument instrument, Notes notes, int output) implements Feed {
        public Played {
            Ranges.checked("output", output, 1, Instrument.MOST_OUTPUTS);
        }

        public Played withNotes(Notes value) {
            return new Played(instrument, value, output);
        }
    }

    /**
     * An output of an instrument that another track plays.
     *
     * @param player the track that plays it, or played it before it was parked
     * @param output from 1
     */
    record Output(ChannelId player, int output) implements Feed {
        public Output {
            Ranges.checked("output", output, 1, Instrument.MOST_OUTPUTS);
        }
    }

    /** Nothing yet. */
    static Feed none() {
        return new Clips(List.of());
    }
}
