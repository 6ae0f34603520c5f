package waterwheel.core.edit;

import java.util.ArrayList;
import java.util.HashSet;
import java.util.List;
import java.util.Optional;
import java.util.Set;
import java.util.stream.Collectors;
import waterwheel.core.inserts.Insert;
import waterwheel.core.routing.Wiring;
import waterwheel.core.session.Bus;
import waterwheel.core.session.Channel;
import waterwheel.core.session.ChannelId;
import waterwheel.core.session.Feed;
import waterwheel.core.session.Freeze;
import waterwheel.core.session.Session;
import waterwheel.core.session.Strip;
import waterwheel.core.session.Track;
import waterwheel.core.sources.SourceId;

/**
 * What lies in a frozen sound is locked: of a channel its feed, polarity, trim and slots up to the frozen one; of what
 * feeds a frozen bus everything on the way there. One rule for all edits, asked of the session before and after.
 */
public final class FreezeLock {
    private FreezeLock() {}

    /** A frozen channel that an edit would change something before. */
    public record Broken(ChannelId channel, String sentence) {}

    /** The first frozen channel whose sound an edit would make another; empty where there is none. */
    public static Optional<Broken> broken(Session before, Session after) {
        for (Channel channel : before.channels()) {
            Optional<Freeze> freeze = channel.strip().freeze();
            Optional<Channel> now = after.find(channel.id());
            if (freeze.isPresent()
                    && now.isPresent()
                    && now.get().strip().freeze().equals(freeze)
                    && !locked(before, channel).equals(locked(after, now.get()))) {
                return Optional.of(new Broken(
                        channel.id(),
                        channel.name() + " is frozen" + through(channel)
                                + ", and this lies before. Nothing was changed."));
            }
        }
        return Optional.empty();
    }

    /** Ends a channel's freeze; its sound is computed again. */
    public static Edit unfreeze(Channel channel) {
        return new Edit("Unfreeze " + channel.name(), session -> unfrozen(session, List.of(channel.id())));
    }

    /** Ends all freezes of some channels, and takes their files from the session's list; they stay on disk until it is saved. */
    public static Session unfrozen(Session session, List<ChannelId> channels) {
        Session out = session;
        for (ChannelId id : channels) {
            if (out.find(id).isPresent()) {
                out = out.withStrip(id, strip -> strip.withFreeze(Optional.empty()));
            }
        }
        Set<SourceId> gone = sources(session);
        gone.removeAll(sources(out));
        return out.withSources(out.sources().stream()
                .filter(source -> !gone.contains(source.id()))
                .toList());
    }

    /** The files of all frozen sounds. */
    public static Set<SourceId> sources(Session session) {
        return session.everyChannel().stream()
                .flatMap(channel -> channel.strip().freeze().stream())
                .map(Freeze::source)
                .collect(Collectors.toCollection(HashSet::new));
    }

    private static String through(Channel channel) {
        List<Insert> frozen = channel.strip().frozenInserts();
        return frozen.isEmpty()
                ? ""
                : " through its " + frozen.getLast().processor().kind().label();
    }

    private static List<Object> locked(Session session, Channel channel) {
        List<Object> all = new ArrayList<>();
        addSignal(channel.strip(), all);
        all.add(channel.strip().frozenInserts());
        if (channel instanceof Track track) {
            addFeed(session, track, all);
        }
        if (channel instanceof Bus) {
            Set<ChannelId> before = within(session, channel);
            for (Channel one : session.channels()) {
                if (before.contains(one.id()) && !one.id().equals(channel.id())) {
                    all.add(one.id());
                    // Solo is heard through what is computed; names and colours are not heard at all.
                    all.add(one.strip().withSoloed(false).withSoloSafe(false).withFreeze(Optional.empty()));
                    if (one instanceof Track track) {
                        addFeed(session, track, all);
                    }
                }
            }
        }
        return all;
    }

    /** A frozen channel with what feeds it, where it is a bus. */
    private static Set<ChannelId> within(Session session, Channel frozen) {
        return frozen instanceof Bus ? Wiring.mixed(session).upstream(List.of(frozen.id())) : Set.of(frozen.id());
    }

    /** Whether a channel's trim lies in a frozen sound: its own, or that of a bus behind it. */
    public static boolean holds(Session session, Channel channel) {
        return session.channels().stream()
                .filter(one -> one.strip().freeze().isPresent())
                .anyMatch(one -> within(session, one).contains(channel.id()));
    }

    private static void addSignal(Strip strip, List<Object> all) {
        all.add(strip.polarityInverted());
        all.add(strip.trimDb());
        all.add(strip.rides().find(Strip.TRIM.key()));
    }

    /** What feeds a track, but for when one listens to it; of an instrument's output also what is played. */
    private static void addFeed(Session session, Track track, List<Object> all) {
        all.add(track.planes());
        all.add(session.performance(track));
        all.add(track.feed() instanceof Feed.Input input ? List.of(input.port(), input.clips()) : track.feed());
    }
}
