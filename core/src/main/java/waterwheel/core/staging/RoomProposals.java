package waterwheel.core.staging;

import java.util.List;
import java.util.Optional;
import waterwheel.core.edit.Edit;
import waterwheel.core.edit.FlowEdits;
import waterwheel.core.inserts.Insert;
import waterwheel.core.levels.SongMeasure;
import waterwheel.core.metering.LevelSeries;
import waterwheel.core.metering.MiddleBand;
import waterwheel.core.path.Stage;
import waterwheel.core.processing.Equaliser;
import waterwheel.core.rides.Curve;
import waterwheel.core.rides.Ride;
import waterwheel.core.session.Channel;
import waterwheel.core.session.ChannelId;
import waterwheel.core.session.ControlId;
import waterwheel.core.session.Controls;
import waterwheel.core.session.Section;
import waterwheel.core.session.Session;
import waterwheel.core.session.Strip;
import waterwheel.core.work.Progress;

/** Proposes that channels make room for another, and tells what that one gains over the rest. */
public final class RoomProposals {
    /** The bells of an equaliser: frequency, gain, Q. */
    private static final List<List<String>> BELLS =
            List.of(List.of("bell2Hz", "bell2Db", "bell2Q"), List.of("bell1Hz", "bell1Db", "bell1Q"));

    private static final double BELL_Q = 1;

    private RoomProposals() {}

    /**
     * Proposes rides of the channels' faders, or of one bell of an equaliser on each, at the key's own band.
     *
     * @param key the channel that is to be heard
     * @param channels those that step back
     * @return empty where the key is never active
     * @throws java.util.concurrent.CancellationException if the progress says stop
     */
    public static Optional<RideProposal> of(
            SongMeasure song,
            Session session,
            ChannelId key,
            List<ChannelId> channels,
            MakeRoom room,
            Progress progress) {
        LevelSeries heard = song.at(session, key, Stage.FADER, progress.part(0, 0.2));
        Curve curve = room.curve(heard);
        if (curve.isNone()) {
            return Optional.empty();
        }
        double hertz = room.by() == MakeRoom.By.BELL ? middle(song, session, key, progress.part(0.2, 0.4)) : 0;
        Edit edit = edit(session, key, channels, room, curve, hertz);
        Session after = edit.apply(session);
        LevelSeries before = rest(song, session, key, progress.part(0.4, 0.7));
        LevelSeries then = rest(song, after, key, progress.part(0.7, 1));
        LevelSeries own = song.at(session, key, Stage.PLACEMENT, progress);
        return Optional.of(new RideProposal(
                edit,
                after,
                session.channel(key).name() + " over the rest, LU",
                RideProposal.changes(session, s -> over(own, before, s), s -> over(own, then, s))));
    }

    private static double over(LevelSeries key, LevelSeries rest, Section section) {
        return RideProposal.loudness(key, section) - RideProposal.loudness(rest, section);
    }

    /** What reaches the main bus without the key, which may itself ride as it likes. */
    private static LevelSeries rest(SongMeasure song, Session session, ChannelId key, Progress progress) {
        Session without = session.withStrip(
                key, s -> s.withRides(s.rides().without(Strip.MUTED.key())).withMuted(true));
        return song.at(without, session.mainId(), Stage.INPUT, progress);
    }

    private static double middle(SongMeasure song, Session session, ChannelId key, Progress progress) {
        MiddleBand band =
                new MiddleBand(session.sampleRateHz(), session.channel(key).planes());
        song.hear(session, key, Stage.FADER, (signal, first, frames) -> band.accept(signal, frames), progress);
        return band.hertz();
    }

    private static Edit edit(
            Session named, ChannelId key, List<ChannelId> channels, MakeRoom room, Curve curve, double hertz) {
        String whose = channels.size() == 1 ? named.channel(channels.getFirst()).name() : channels.size() + " channels";
        return new Edit("Room for " + named.channel(key).name() + " by " + whose, session -> {
            Session out = session;
            for (ChannelId id : channels) {
                out = room.by() == MakeRoom.By.FADER
                        ? laid(out, ControlId.ofStrip(id, Strip.FADER.key()), curve)
                        : dipped(out, id, hertz, curve);
            }
            return out;
        });
    }

    /** Has a control step back: what it has in offsets over the song is replaced. */
    private static Session laid(Session session, ControlId id, Curve curve) {
        Ride own = Controls.ride(session, id).orElse(Controls.still(session, id));
        return Controls.with(session, id, own.withOffsetCurve(curve).withSuspended(false));
    }

    /** Dips a bell that is not used yet, of the first equaliser that has one; of a new one where none has. */
    private static Session dipped(Session session, ChannelId id, double hertz, Curve curve) {
        for (Insert insert : session.channel(id).strip().activeInserts()) {
            Optional<List<String>> bell = insert.processor().kind().equals(Equaliser.KIND)
                    ? BELLS.stream().filter(one -> free(insert, one)).findFirst()
                    : Optional.empty();
            if (bell.isPresent()) {
                return dipped(session, id, insert, bell.get(), hertz, curve);
            }
        }
        Channel channel = session.channel(id);
        Session more = FlowEdits.addInsert(channel, Equaliser.KIND).apply(session);
        return dipped(more, id, more.channel(id).strip().inserts().getLast(), BELLS.getFirst(), hertz, curve);
    }

    /** Whether a bell does nothing, or makes room already. */
    private static boolean free(Insert insert, List<String> bell) {
        return insert.value(bell.get(1)) == 0
                && insert.rides()
                        .find(bell.get(1))
                        .map(ride -> ride.curve().points().stream().allMatch(point -> point.value() == 0))
                        .orElse(true);
    }

    private static Session dipped(
            Session session, ChannelId id, Insert insert, List<String> bell, double hertz, Curve curve) {
        Session out = session;
        out = Controls.withSet(out, ControlId.ofInsert(id, insert.id(), bell.get(0)), Math.rint(hertz));
        out = Controls.withSet(out, ControlId.ofInsert(id, insert.id(), bell.get(2)), BELL_Q);
        return laid(out, ControlId.ofInsert(id, insert.id(), bell.get(1)), curve);
    }
}
