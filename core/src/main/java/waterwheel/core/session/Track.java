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
 * @param feed where its signal comes from
 * @param ownReferenceDbfs the average that this track is staged to and its 0 VU, -24 to -12 dBFS; empty for the
 *     session's nominal level
 * @param colour a mark to find the track by
 */
public record Track(
        ChannelId id,
        String name,
        Kind kind,
        int planes,
        Feed feed,
        Strip strip,
        OptionalDouble ownReferenceDbfs,
        Colour colour)
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
        ownReferenceDbfs.ifPresent(db -> Ranges.checked("ownReferenceDbfs", db, -24, -12));
    }

    /** A track that is staged to the session's nominal level and has no colour. */
    public Track(ChannelId id, String name, Kind kind, int planes, List<Clip> clips, Strip strip) {
        this(id, name, kind, planes, new Feed.Clips(clips), strip, OptionalDouble.empty(), Colour.NONE);
    }

    /** The clips of a track that is fed by some; none for any other. */
    public List<Clip> clips() {
        return switch (feed) {
            case Feed.Clips(List<Clip> clips) -> clips;
            case Feed.Input(int _, Listen _, List<Clip> clips) -> clips;
            case Feed.Tapped _, Feed.Played _, Feed.Output _ -> List.of();
        };
    }

    /** The interface's inputs that feed it; empty for any other track. */
    public Optional<Feed.Input> input() {
        return feed instanceof Feed.Input input ? Optional.of(input) : Optional.empty();
    }

    /** The instrument that it plays; empty for any other track. */
    public Optional<Feed.Played> played() {
        return feed instanceof Feed.Played played ? Optional.of(played) : Optional.empty();
    }

    /** What a track that is fed by another channel takes its signal from. */
    public Optional<Tap> tap() {
        return feed instanceof Feed.Tapped(Tap tap) ? Optional.of(tap) : Optional.empty();
    }

    /** The gain that all of the signal's clips share, in dB; 0 where they differ, there are none, or more comes in. */
    public double commonClipGainDb() {
        List<Clip> clips = input().isPresent() ? List.of() : clips();
        double first = clips.isEmpty() ? 0 : clips.getFirst().gainDb();
        return clips.stream().allMatch(clip -> clip.gainDb() == first) ? first : 0;
    }

    @Override
    public Track withStrip(Strip value) {
        return new Track(id, name, kind, planes, feed, value, ownReferenceDbfs, colour);
    }

    @Override
    public Track withName(String value) {
        return new Track(id, value, kind, planes, feed, strip, ownReferenceDbfs, colour);
    }

    public Track withKind(Kind value) {
        return new Track(id, name, value, planes, feed, strip, ownReferenceDbfs, colour);
    }

    public Track withPlanes(int value) {
        return new Track(id, name, kind, value, feed, strip, ownReferenceDbfs, colour);
    }

    public Track withFeed(Feed value) {
        return new Track(id, name, kind, planes, value, strip, ownReferenceDbfs, colour);
    }

    /** Returns the track with other clips; one that takes its signal from a channel is fed by them from now on. */
    public Track withClips(List<Clip> value) {
        return withFeed(
                feed instanceof Feed.Input(int port, Listen listen, List<Clip> _)
                        ? new Feed.Input(port, listen, value)
                        : new Feed.Clips(value));
    }

    public Track withOwnReferenceDbfs(OptionalDouble value) {
        return new Track(id, name, kind, planes, feed, strip, value, colour);
    }

    public Track withColour(Colour value) {
        return new Track(id, name, kind, planes, feed, strip, ownReferenceDbfs, value);
    }
}
