package waterwheel.core.playback;

import java.util.ArrayList;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import org.jspecify.annotations.Nullable;
import waterwheel.core.routing.Upstream;
import waterwheel.core.session.Channel;
import waterwheel.core.session.ChannelId;
import waterwheel.core.session.Session;

/**
 * What the meters showed since they began: peak hold and overs of every channel, for as long as nothing before the
 * metered place changes. When something does, a channel's meter begins anew by itself and says why, so that it never
 * shows what is no longer true. For one thread.
 */
public final class HeldMeters {
    private final Map<ChannelId, Held> held = new HashMap<>();
    private int sampleRateHz;

    /** A place where a channel went over full scale. */
    public record Over(double atSeconds, double peakDbfs) {}

    /**
     * What a channel's meter shows.
     *
     * @param vuDbfs the level of the sine that reads so now, dBFS; less the reference it is VU
     * @param peakDbfs the highest sample since the meter began
     * @param overs how often it went over full scale since then
     * @param places where, as far as they are known
     * @param resetBy what made it begin anew; empty where it did not
     */
    public record Reading(double vuDbfs, double peakDbfs, int overs, List<Over> places, Optional<String> resetBy) {
        static final Reading NOTHING =
                new Reading(Double.NEGATIVE_INFINITY, Double.NEGATIVE_INFINITY, 0, List.of(), Optional.empty());

        public Reading {
            places = List.copyOf(places);
        }
    }

    private static final class Held {
        private List<Object> upstream = List.of();
        private double peakDbfs = Double.NEGATIVE_INFINITY;
        private int overs;
        private List<Over> places = new ArrayList<>();
        private @Nullable String resetBy;
        private @Nullable ChannelMeter meter;
        /** Belongs to what was before the last change. */
        private @Nullable ChannelMeter outdated;

        boolean empty() {
            return peakDbfs == Double.NEGATIVE_INFINITY && meter == null;
        }
    }

    /**
     * Tells of the session as it is now.
     *
     * @param reason what changed, as the undo menu says it
     */
    public void use(Session session, String reason) {
        sampleRateHz = session.sampleRateHz();
        held.keySet().removeIf(id -> session.find(id).isEmpty());
        Upstream dependencies = Upstream.in(session);
        for (Channel channel : session.channels()) {
            Held one = held.computeIfAbsent(channel.id(), id -> new Held());
            List<Object> upstream = dependencies.of(channel.id());
            if (!upstream.equals(one.upstream)) {
                one.resetBy = one.empty() ? one.resetBy : reason;
                one.upstream = upstream;
                forget(one);
            }
        }
    }

    /** Begins all meters anew, by hand. */
    public void reset() {
        held.values().forEach(one -> {
            one.resetBy = null;
            forget(one);
        });
    }

    private static void forget(Held one) {
        one.peakDbfs = Double.NEGATIVE_INFINITY;
        one.overs = 0;
        one.places = new ArrayList<>();
        one.outdated = one.meter == null ? one.outdated : one.meter;
        one.meter = null;
    }

    /** Takes the meters that the player has now. */
    public void take(Map<ChannelId, ChannelMeter> meters) {
        held.forEach((id, one) -> {
            ChannelMeter now = meters.get(id);
            if (now != null && now != one.meter && now != one.outdated) {
                fold(one);
                one.meter = now;
            }
        });
    }

    /** What the meter that is about to be replaced showed stays, because nothing before it changed. */
    private void fold(Held one) {
        if (one.meter != null) {
            Reading before = reading(one);
            one.peakDbfs = before.peakDbfs();
            one.overs = before.overs();
            one.places = new ArrayList<>(before.places());
        }
    }

    /** What a channel's meter shows now. */
    public Reading of(ChannelId id) {
        Held one = held.get(id);
        return one == null ? Reading.NOTHING : reading(one);
    }

    private Reading reading(Held one) {
        ChannelMeter meter = one.meter;
        Optional<String> resetBy = Optional.ofNullable(one.resetBy);
        if (meter == null) {
            return new Reading(Double.NEGATIVE_INFINITY, one.peakDbfs, one.overs, one.places, resetBy);
        }
        List<Over> places = new ArrayList<>(one.places);
        for (int i = 0; i < meter.knownPlaces(); i++) {
            places.add(new Over((double) meter.place(i) / sampleRateHz, meter.overPeakDbfs(i)));
        }
        return new Reading(
                meter.vuDbfs(), Math.max(one.peakDbfs, meter.peakDbfs()), one.overs + meter.overs(), places, resetBy);
    }
}
