package waterwheel.core.stems;

import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Set;
import waterwheel.core.captures.StemShare;
import waterwheel.core.session.Bus;
import waterwheel.core.session.Channel;
import waterwheel.core.session.ChannelId;
import waterwheel.core.session.Output;
import waterwheel.core.session.Session;
import waterwheel.core.session.Track;

/** How a mix is divided into stems. Every track is in one of them, with its share of every return. */
public enum StemDivision {
    /** Each track by itself. */
    TRACKS("tracks"),
    /** The tracks under each bus that feeds the main bus together; those that feed it directly by themselves. */
    BUSES("buses");

    private final String label;

    StemDivision(String label) {
        this.label = label;
    }

    /** The word on screen and on the command line. */
    public String label() {
        return label;
    }

    /**
     * What a stem is made of.
     *
     * @param channel the track, or the bus that its tracks come together in
     * @param tracks that sound in it
     * @param cue whether it is a click or cue, which is no part of the mix
     */
    record Group(Channel channel, Set<ChannelId> tracks, boolean cue) {
        Group {
            tracks = Set.copyOf(tracks);
        }

        StemShare share(Treatment treatment) {
            return new StemShare(channel.id(), tracks, treatment.sharesGain());
        }
    }

    /** What the stems of a session are called, in its order, cues among them. */
    public List<String> names(Session session) {
        return of(session).stream().map(group -> group.channel().name()).toList();
    }

    /** The stems of a session, in its order. */
    List<Group> of(Session session) {
        Map<ChannelId, List<ChannelId>> tracks = new LinkedHashMap<>();
        for (Track track : session.tracks()) {
            tracks.computeIfAbsent(stem(session, track), any -> new ArrayList<>())
                    .add(track.id());
        }
        return session.channels().stream()
                .filter(channel -> tracks.containsKey(channel.id()))
                .map(channel ->
                        new Group(channel, Set.copyOf(tracks.getOrDefault(channel.id(), List.of())), channel.cue()))
                .toList();
    }

    /** The last channel before the main bus on a track's way; the track itself where each is a stem of its own. */
    private ChannelId stem(Session session, Track track) {
        Channel at = track;
        while (this == BUSES
                && !track.cue()
                && at.strip().output() instanceof Output.ToBus(ChannelId next)
                && !next.equals(session.mainId())
                && session.channel(next) instanceof Bus bus) {
            at = bus;
        }
        return at.id();
    }
}
