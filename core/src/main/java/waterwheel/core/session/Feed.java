package waterwheel.core.session;

import java.util.List;

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

    /** Nothing yet. */
    static Feed none() {
        return new Clips(List.of());
    }
}
