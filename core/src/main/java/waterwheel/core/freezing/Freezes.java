package waterwheel.core.freezing;

import java.util.ArrayList;
import java.util.HashSet;
import java.util.List;
import java.util.Set;
import java.util.stream.Collectors;
import waterwheel.core.edit.Edits;
import waterwheel.core.engine.Media;
import waterwheel.core.engine.PlanCompiler;
import waterwheel.core.session.Channel;
import waterwheel.core.session.ChannelId;
import waterwheel.core.session.Freeze;
import waterwheel.core.session.Session;

/** Whether frozen sounds are what would be computed. */
public final class Freezes {
    private Freezes() {}

    /** How it stands with a channel's frozen sound. */
    public enum State {
        /** It is what would be computed, and is played. */
        FRESH("frozen"),
        /** Something before it is otherwise than when it was frozen. */
        STALE("frozen, out of date: plays unfrozen"),
        /** Its file is gone or holds something else. */
        LOST("frozen, file missing: plays unfrozen");

        private final String label;

        State(String label) {
            this.label = label;
        }

        /** The words on screen. */
        public String label() {
            return label;
        }
    }

    /** A frozen channel and how it stands with it. */
    public record Frozen(ChannelId channel, Freeze freeze, State state) {}

    /** All frozen channels of a session. */
    public static List<Frozen> of(Session session, Media media) {
        List<Channel> channels = session.channels().stream()
                .filter(channel -> channel.strip().freeze().isPresent())
                .toList();
        if (channels.isEmpty()) {
            return List.of();
        }
        // Solo passes by; it makes no frozen sound another one.
        List<String> wouldBe = madeOf(Edits.clearSolos().apply(session), channels, media);
        List<Frozen> all = new ArrayList<>();
        for (int i = 0; i < channels.size(); i++) {
            Freeze freeze = channels.get(i).strip().freeze().orElseThrow();
            boolean there = media.file(freeze.source()).isPresent() && media.holds(freeze.source());
            State state = !there ? State.LOST : wouldBe.get(i).equals(freeze.madeOf()) ? State.FRESH : State.STALE;
            all.add(new Frozen(channels.get(i).id(), freeze, state));
        }
        return all;
    }

    /**
     * The channels whose frozen sound can be played for what they would be. Not one that a soloed channel is within: then
     * only part of what it holds is heard.
     */
    public static Set<ChannelId> playable(Session session, Media media) {
        List<Channel> fresh = of(session, media).stream()
                .filter(one -> one.state() == State.FRESH)
                .map(one -> session.channel(one.channel()))
                .toList();
        Set<ChannelId> playable = fresh.stream().map(Channel::id).collect(Collectors.toCollection(HashSet::new));
        boolean soloed =
                session.channels().stream().anyMatch(channel -> channel.strip().soloed());
        if (soloed && !fresh.isEmpty()) {
            List<String> heard = madeOf(session, fresh, media);
            for (int i = 0; i < fresh.size(); i++) {
                Channel channel = fresh.get(i);
                if (!heard.get(i).equals(channel.strip().freeze().orElseThrow().madeOf())) {
                    playable.remove(channel.id());
                }
            }
        }
        return playable;
    }

    /** Names for all that some frozen channels' sounds would be made of, were they computed. */
    private static List<String> madeOf(Session session, List<Channel> frozen, Media media) {
        List<FrozenPoint> points = frozen.stream()
                .map(channel -> new FrozenPoint(
                        channel, channel.strip().freeze().orElseThrow().through()))
                .toList();
        return FrozenPoint.madeOf(FrozenPoint.in(PlanCompiler.compile(session), points), points, media);
    }
}
