package waterwheel.core.session;

import java.util.List;
import java.util.Optional;
import java.util.OptionalDouble;
import waterwheel.core.units.Ranges;

/**
 * A channel whose signal comes from clips, or from another channel.
 *
 * @param planes 1 for mono, 2 for stereo; a mono source in a stereo track sounds on both sides
 * @param kind what the levels of this track are judged by
 * @param clips the parts of audio files on the song's line; overlapping ones are summed
 * @param ownReferenceDbfs the average that this track is staged to and its 0 VU, -24 to -12 dBFS; empty for the
 *     session's nominal level
 * @param colour a mark to find the track by
 * @param tap what the track takes its signal from; it has no clips then
 */
public record Track(
        ChannelId id,
        String name,
        Kind kind,
        int planes,
        List<Clip> clips,
        Strip strip,
        OptionalDouble ownReferenceDbfs,
        Colour colour,
        Optional<Tap> tap)
        implements Channel {
    /** What a track's material is, as far as levels are concerned. */
    public enum Kind {
        /** Set by its average level. */
        SUSTAINED("sustained"),
        /** Set by its peak level. */
        PERCUSSIVE("percussive"),
        /** A click, count-in or spoken cue: heard while working, never part of the mix. */
        CUE("cue");

        private final String label;

        Kind(String label) {
            this.label = label;
        }

        /** The word on screen. */
        public String label() {
            return label;
        }
    }

    /** Marks to find tracks by; what they look like is the interface's affair. */
    public enum Colour {
        NONE("none"),
        SAND("sand"),
        CLAY("clay"),
        ROSE("rose"),
        HEATHER("heather"),
        SLATE("slate"),
        LAKE("lake"),
        FERN("fern"),
        MOSS("moss");

        private final String label;

        Colour(String label) {
            this.label = label;
        }

        /** The word on screen and in the session file. */
        public String label() {
            return label;
        }
    }

    public Track {
        if (name.isBlank()) {
            throw new IllegalArgumentException("name: blank (expected: a name)");
        }
        if (planes != 1 && planes != 2) {
            throw new IllegalArgumentException("planes: " + planes + " (expected: 1 or 2)");
        }
        clips = List.copyOf(clips);
        if (tap.isPresent() && !clips.isEmpty()) {
            throw new IllegalArgumentException("tap: " + tap.get() + " (expected: none for a track with clips)");
        }
        ownReferenceDbfs.ifPresent(db -> Ranges.checked("ownReferenceDbfs", db, -24, -12));
    }

    /** A track that is staged to the session's nominal level and has no colour. */
    public Track(ChannelId id, String name, Kind kind, int planes, List<Clip> clips, Strip strip) {
        this(id, name, kind, planes, clips, strip, OptionalDouble.empty(), Colour.NONE, Optional.empty());
    }

    /** The gain that all clips share, in dB; 0 where they differ or there are none. */
    public double commonClipGainDb() {
        double first = clips.isEmpty() ? 0 : clips.getFirst().gainDb();
        return clips.stream().allMatch(clip -> clip.gainDb() == first) ? first : 0;
    }

    @Override
    public Track withStrip(Strip value) {
        return new Track(id, name, kind, planes, clips, value, ownReferenceDbfs, colour, tap);
    }

    @Override
    public Track withName(String value) {
        return new Track(id, value, kind, planes, clips, strip, ownReferenceDbfs, colour, tap);
    }

    public Track withKind(Kind value) {
        return new Track(id, name, value, planes, clips, strip, ownReferenceDbfs, colour, tap);
    }

    public Track withPlanes(int value) {
        return new Track(id, name, kind, value, clips, strip, ownReferenceDbfs, colour, tap);
    }

    public Track withClips(List<Clip> value) {
        return new Track(id, name, kind, planes, value, strip, ownReferenceDbfs, colour, tap);
    }

    public Track withOwnReferenceDbfs(OptionalDouble value) {
        return new Track(id, name, kind, planes, clips, strip, value, colour, tap);
    }

    public Track withColour(Colour value) {
        return new Track(id, name, kind, planes, clips, strip, ownReferenceDbfs, value, tap);
    }

    public Track withTap(Optional<Tap> value) {
        return new Track(id, name, kind, planes, clips, strip, ownReferenceDbfs, colour, value);
    }
}
