package waterwheel.core.freezing;

import java.util.ArrayList;
import java.util.HashSet;
import java.util.List;
import java.util.Optional;
import java.util.Set;
import waterwheel.core.engine.Media;
import waterwheel.core.engine.Plan;
import waterwheel.core.engine.PlanCompiler;
import waterwheel.core.engine.SignalKey;
import waterwheel.core.inserts.SlotId;
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
        Plan plan = PlanCompiler.compile(unsoloed(session));
        List<Frozen> all = new ArrayList<>();
        for (Channel channel : channels) {
            Freeze freeze = channel.strip().freeze().orElseThrow();
            boolean there = media.file(freeze.source()).isPresent() && media.holds(freeze.source());
            State state = !there
                    ? State.LOST
                    : madeOf(plan, channel, freeze.through(), media).equals(freeze.madeOf())
                            ? State.FRESH
                            : State.STALE;
            all.add(new Frozen(channel.id(), freeze, state));
        }
        return all;
    }

    /**
     * The channels whose frozen sound can be played for what they would be. Not one that a soloed channel is within: then
     * only part of what it holds is heard.
     */
    public static Set<ChannelId> playable(Session session, Media media) {
        Set<ChannelId> fresh = new HashSet<>();
        boolean soloed =
                session.channels().stream().anyMatch(channel -> channel.strip().soloed());
        List<Frozen> frozen = of(session, media);
        if (frozen.isEmpty()) {
            return fresh;
        }
        Plan plan = PlanCompiler.compile(session);
        for (Frozen one : frozen) {
            Channel channel = session.channel(one.channel());
            boolean whole = !soloed
                    || madeOf(plan, channel, one.freeze().through(), media)
                            .equals(one.freeze().madeOf());
            if (one.state() == State.FRESH && whole) {
                fresh.add(one.channel());
            }
        }
        return fresh;
    }

    private static Session unsoloed(Session session) {
        return session.withChannels(session.channels().stream()
                .map(channel -> channel.withStrip(channel.strip().withSoloed(false)))
                .toList());
    }

    /** A name for all that a channel's sound up to a slot is made of. */
    static String madeOf(Plan plan, Channel channel, Optional<SlotId> through, Media media) {
        return SignalKey.ofContent(new FrozenPoint(channel, through).in(plan), media)
                .getLast()
                .hex();
    }
}
