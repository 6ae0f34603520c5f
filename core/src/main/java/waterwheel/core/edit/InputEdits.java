package waterwheel.core.edit;

import java.util.ArrayList;
import java.util.List;
import java.util.function.Function;
import waterwheel.core.rack.Port;
import waterwheel.core.rack.PortSide;
import waterwheel.core.session.Channel;
import waterwheel.core.session.Feed;
import waterwheel.core.session.Listen;
import waterwheel.core.session.Output;
import waterwheel.core.session.Strip;
import waterwheel.core.session.Track;

/** The edits of tracks that inputs of the interface feed. */
public final class InputEdits {
    private InputEdits() {}

    /**
     * Makes a track that an input feeds, or a pair of them; it goes to the main bus and is not listened to.
     *
     * @param port the first input, from 1
     */
    public static Edit newTrack(int port, int planes) {
        String ports = words(port, planes);
        return new Edit("New track from " + ports, session -> {
            Port named = session.rack().port(PortSide.INPUT, port);
            Track track = new Track(
                            FlowEdits.freeId(session, "t"),
                            FlowEdits.freeName(session, named.name().isEmpty() ? ports : named.name()),
                            Track.Kind.SUSTAINED,
                            planes,
                            List.of(),
                            Strip.unity(Output.to(session.mainId())))
                    .withFeed(new Feed.Input(port, Listen.NEVER, List.of()));
            List<Channel> channels = new ArrayList<>(session.channels());
            channels.add(session.tracks().size(), track);
            return session.withChannels(channels);
        });
    }

    /** Feeds a track by an input, or a pair for a stereo one; the clips that it has stay. */
    public static Edit input(Track track, int port) {
        return feed(
                track.name() + " from " + words(port, track.planes()),
                track,
                now -> new Feed.Input(port, now.input().map(Feed.Input::listen).orElse(Listen.NEVER), now.clips()));
    }

    /** Takes the input away from a track; its clips stay. */
    public static Edit noInput(Track track) {
        return feed(
                "No input for " + track.name(),
                track,
                now -> now.input().isPresent() ? new Feed.Clips(now.clips()) : now.feed());
    }

    /** Sets when a track's input is listened to. */
    public static Edit listen(Track track, Listen listen) {
        return feed("Listening to " + track.name(), track, now -> now.input()
                .<Feed>map(input -> input.withListen(listen))
                .orElse(now.feed()));
    }

    private static Edit feed(String name, Track track, Function<Track, Feed> change) {
        return new Edit(
                name,
                session -> session.find(track.id()).isEmpty()
                        ? session
                        : session.withChannel(
                                track.id(),
                                channel -> channel instanceof Track now ? now.withFeed(change.apply(now)) : channel));
    }

    private static String words(int port, int planes) {
        return planes == 1 ? "Input " + port : "Inputs " + port + "\u2013" + (port + 1);
    }
}
