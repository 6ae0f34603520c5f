package waterwheel.core.edit;

import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.OptionalDouble;
import java.util.function.BiFunction;
import java.util.function.Function;
import waterwheel.core.errors.RoutingException;
import waterwheel.core.session.Channel;
import waterwheel.core.session.ChannelId;
import waterwheel.core.session.LinkGroup;
import waterwheel.core.session.Output;
import waterwheel.core.session.PanLaw;
import waterwheel.core.session.Placement;
import waterwheel.core.session.Session;
import waterwheel.core.session.StagingTargets;
import waterwheel.core.session.Strip;
import waterwheel.core.session.Track;

/** The edits of a channel's strip and of the session, by name. Values outside a control's range stop at its end. */
public final class Edits {
    private Edits() {}

    /** Sets a trim in dB; linked ones move by as much. */
    public static Edit trim(Channel channel, double db) {
        return new Edit(
                "Trim of " + channel.name(), s -> LinkedMoves.to(s, LinkGroup.Attribute.TRIM, channel.id(), db));
    }

    /** Sets several trims in one step; values in dB by channel. */
    public static Edit trims(Map<ChannelId, Double> values) {
        return each(
                "Trim of " + values.size() + " channels",
                values,
                (c, db) -> c.withStrip(
                        c.strip().withStandingDb(Strip.TRIM, limited(db, -Strip.TRIM_LIMIT_DB, Strip.TRIM_LIMIT_DB))));
    }

    /** Sets a fader in dB; negative infinity is silence. Linked ones move by as much. */
    public static Edit fader(Channel channel, double db) {
        return new Edit(
                "Fader of " + channel.name(), s -> LinkedMoves.to(s, LinkGroup.Attribute.FADER, channel.id(), db));
    }

    /** Sets a fader in dB, whatever it is linked to. */
    public static Edit faderAlone(Channel channel, double db) {
        double value = limited(db, Double.NEGATIVE_INFINITY, Strip.FADER_TOP_DB);
        return new Edit(
                "Fader of " + channel.name() + " alone",
                s -> s.withStrip(channel.id(), strip -> strip.withStandingDb(Strip.FADER, value)));
    }

    /**
     * Hands faders' gain to the trims, as far as those reach, and leaves the faders at 0 dB: the mix stays the same, and
     * inserts get the signal as much softer or louder. Silent faders stay.
     */
    public static Edit faderToTrim(List<Channel> channels) {
        return forEach("Fader to trim", channels, channel -> {
            Strip strip = channel.strip();
            double whole = strip.standingDb(Strip.TRIM) + strip.standingDb(Strip.FADER);
            double trim = limited(whole, -Strip.TRIM_LIMIT_DB, Strip.TRIM_LIMIT_DB);
            return new Edit(
                    "Fader to trim of " + channel.name(),
                    s -> Double.isInfinite(whole)
                            ? s
                            : s.withStrip(channel.id(), now -> now.withStandingDb(Strip.TRIM, trim)
                                    .withStandingDb(Strip.FADER, whole - trim)));
        });
    }

    /** Moves several channels' faders, and the linked ones, by as many dB, in one step; a silent one stays so. */
    public static Edit fadersBy(List<Channel> channels, double db) {
        return by("Fader", LinkGroup.Attribute.FADER, channels, db);
    }

    /**
     * Sets a fader in dB and moves others, and the linked ones, by as much; from or to silence there is no such distance,
     * and all are set.
     *
     * @param channels all that move, the one that is set among them
     */
    public static Edit fadersTo(List<Channel> channels, Channel set, double db) {
        if (channels.size() == 1) {
            return fader(set, db);
        }
        List<ChannelId> ids = channels.stream().map(Channel::id).toList();
        return new Edit(
                "Fader of " + channels.size() + " channels",
                s -> LinkedMoves.to(s, LinkGroup.Attribute.FADER, ids, set.id(), db));
    }

    /** Moves several channels' trims, and the linked ones, by as many dB, in one step. */
    public static Edit trimsBy(List<Channel> channels, double db) {
        return by("Trim", LinkGroup.Attribute.TRIM, channels, db);
    }

    private static Edit by(String what, LinkGroup.Attribute attribute, List<Channel> channels, double db) {
        List<ChannelId> ids = channels.stream().map(Channel::id).toList();
        String whose = channels.size() == 1 ? channels.getFirst().name() : channels.size() + " channels";
        return new Edit(what + " of " + whose, s -> LinkedMoves.by(s, attribute, ids, db));
    }

    /**
     * Does the same kind of edit on several channels, in one step.
     *
     * @param what names it, such as {@code Mute}
     * @param edit makes each channel's edit
     */
    public static <C extends Channel> Edit forEach(String what, List<C> channels, Function<? super C, Edit> edit) {
        List<Edit> all = channels.stream().map(edit).toList();
        if (all.size() == 1) {
            return all.getFirst();
        }
        return Edit.together(what + " of " + all.size() + " channels", all);
    }

    /**
     * Changes several channels in one step, each by a value of its own.
     *
     * @param change makes a channel what it becomes with its value
     */
    public static <V> Edit each(String name, Map<ChannelId, V> values, BiFunction<Channel, V, Channel> change) {
        Map<ChannelId, V> copy = new LinkedHashMap<>(values);
        return new Edit(name, session -> {
            Session out = session;
            for (Map.Entry<ChannelId, V> entry : copy.entrySet()) {
                out = out.withChannel(entry.getKey(), c -> change.apply(c, entry.getValue()));
            }
            return out;
        });
    }

    public static Edit placement(Channel channel, Placement value) {
        return new Edit(
                "Placement of " + channel.name(), s -> s.withStrip(channel.id(), strip -> strip.withPlacement(value)));
    }

    public static Edit polarity(Channel channel, boolean inverted) {
        return new Edit(
                "Polarity of " + channel.name(),
                s -> s.withStrip(channel.id(), strip -> strip.withPolarityInverted(inverted)));
    }

    public static Edit mute(Channel channel, boolean muted) {
        return new Edit(
                (muted ? "Mute of " : "Unmute of ") + channel.name(),
                s -> LinkedMoves.flag(s, LinkGroup.Attribute.MUTE, channel.id(), muted));
    }

    public static Edit solo(Channel channel, boolean soloed) {
        return new Edit(
                (soloed ? "Solo of " : "End of solo of ") + channel.name(),
                s -> LinkedMoves.flag(s, LinkGroup.Attribute.SOLO, channel.id(), soloed));
    }

    public static Edit soloSafe(Channel channel, boolean safe) {
        return new Edit(
                "Solo-safe of " + channel.name(), s -> s.withStrip(channel.id(), strip -> strip.withSoloSafe(safe)));
    }

    public static Edit kind(Track track, Track.Kind kind) {
        return new Edit(
                "Kind of " + track.name(),
                s -> s.withChannel(track.id(), c -> c instanceof Track t ? t.withKind(kind) : c));
    }

    /** Sets a track's own reference level in dBFS; empty for the session's nominal level. */
    public static Edit reference(Track track, OptionalDouble dbfs) {
        return new Edit(
                "Reference of " + track.name(),
                s -> s.withChannel(track.id(), c -> c instanceof Track t ? t.withOwnReferenceDbfs(dbfs) : c));
    }

    /** Sets what channels are staged to. */
    public static Edit staging(StagingTargets targets) {
        return new Edit("Staging targets", s -> s.withStaging(targets));
    }

    public static Edit rename(Channel channel, String name) {
        return new Edit("Name of " + channel.name(), s -> s.withChannel(channel.id(), c -> c.withName(name.strip())));
    }

    /** Changes the law as it is: centred mono sources move against wide ones. */
    public static Edit panLaw(PanLaw law) {
        return new Edit("Pan law " + law.label(), s -> s.withPanLaw(law));
    }

    /** Changes the level that reads 0 VU, in dBFS. */
    public static Edit nominal(double dbfs) {
        return new Edit("Nominal level", s -> s.withNominalDbfs(dbfs));
    }

    /**
     * Sends a channel to a bus, to a pair of the interface, or nowhere.
     *
     * @throws RoutingException if that would close a loop, and the message names every channel on it; or if the channel
     *     is the main bus
     */
    public static Edit output(Session session, Channel channel, Output output) throws RoutingException {
        Edit edit = new Edit(
                "Output of " + channel.name(), s -> s.withStrip(channel.id(), strip -> strip.withOutput(output)));
        if (channel.id().equals(session.mainId())) {
            throw new RoutingException(
                    "'" + channel.name() + "' is the mix and has no output to a bus.", "Choose another channel.");
        }
        return output instanceof Output.ToBus(ChannelId bus)
                ? FlowEdits.withoutLoop(
                        session, channel, session.channel(bus), edit, "Choose a bus that does not come before it.")
                : edit;
    }

    /** Takes solo off every channel. */
    public static Edit clearSolos() {
        return new Edit("End of all solos", session -> {
            List<Channel> channels = session.channels().stream()
                    .map(c -> c.strip().soloed() ? c.withStrip(c.strip().withSoloed(false)) : c)
                    .toList();
            return session.withChannels(channels);
        });
    }

    private static double limited(double value, double lowest, double highest) {
        return Math.max(lowest, Math.min(highest, value));
    }
}
