package waterwheel.core.session;

import java.util.ArrayList;
import java.util.List;
import java.util.Locale;
import java.util.Optional;
import java.util.function.LongToDoubleFunction;
import java.util.function.UnaryOperator;
import java.util.stream.Stream;
import waterwheel.core.inserts.Insert;
import waterwheel.core.inserts.SlotId;
import waterwheel.core.rides.Control;
import waterwheel.core.rides.Curve;
import waterwheel.core.rides.CurvePoint;
import waterwheel.core.rides.Ridable;
import waterwheel.core.rides.Ride;

/** Finds the controls of a session, what they are set to, and their rides. */
public final class Controls {
    private Controls() {}

    /** All controls of a channel or a VCA, in signal order: its strip's, its inserts', its sends'. */
    public static List<ControlId> of(Session session, ChannelId owner) {
        List<ControlId> all = new ArrayList<>();
        Optional<Channel> channel = session.find(owner);
        if (channel.isEmpty()) {
            Vca.controls().forEach(control -> all.add(ControlId.ofStrip(owner, control.key())));
            return all;
        }
        Strip strip = channel.get().strip();
        Strip.controls().forEach(control -> all.add(ControlId.ofStrip(owner, control.key())));
        for (Insert insert : strip.inserts()) {
            insert.controls().forEach(control -> all.add(ControlId.ofInsert(owner, insert.id(), control.key())));
        }
        for (int i = 0; i < strip.sends().size(); i++) {
            int number = i;
            strip.sends().get(i).controls().forEach(c -> all.add(ControlId.ofSend(owner, number, c.key())));
        }
        return all;
    }

    /** The controls of a channel or a VCA that have a curve, suspended or not. */
    public static List<ControlId> ridden(Session session, ChannelId owner) {
        return of(session, owner).stream()
                .filter(id -> ride(session, id).isPresent())
                .toList();
    }

    /** The controls of the whole session that have a curve: of channels in the order of the screen, then of VCAs. */
    public static List<ControlId> ridden(Session session) {
        List<ControlId> all = new ArrayList<>();
        session.channels().forEach(channel -> all.addAll(ridden(session, channel.id())));
        session.vcas().forEach(vca -> all.addAll(ridden(session, vca.id())));
        return all;
    }

    /** Whether the session has such a control. */
    public static boolean has(Session session, ControlId id) {
        boolean owner = session.find(id.owner()).isPresent()
                || session.findVca(id.owner()).isPresent();
        return owner && of(session, id.owner()).contains(id);
    }

    /**
     * Whether the session has something that a hand sets, be it a control or what cannot be ridden: a setting that an
     * insert's processor is built by, and what lies around a hardware loop.
     */
    public static boolean settable(Session session, ControlId id) {
        return has(session, id)
                || (id.part() instanceof ControlId.OfInsert(SlotId slot)
                        && session.find(id.owner()).stream()
                                .flatMap(channel -> channel.strip().inserts().stream())
                                .anyMatch(insert -> insert.id().equals(slot)));
    }

    /**
     * What a control is.
     *
     * @throws IllegalArgumentException if the session has no such control
     */
    public static Control control(Session session, ControlId id) {
        List<Control> candidates =
                switch (id.part()) {
                    case ControlId.OfStrip() -> Strip.controls();
                    case ControlId.OfSend(int number) ->
                        send(session, id, number).controls();
                    case ControlId.OfInsert(SlotId slot) ->
                        insert(session, id, slot).controls();
                };
        return candidates.stream()
                .filter(control -> control.key().equals(id.key()))
                .findFirst()
                .orElseThrow(() -> noSuch(id));
    }

    /** What a control is set to, whatever its ride says: a switch 0 or 1, a silent fader its end of travel. */
    public static double set(Session session, ControlId id) {
        return control(session, id).limited(owner(session, id).value(id.key()));
    }

    /** Returns the session with a control set to another value; a fader at negative infinity is silent. */
    public static Session withSet(Session session, ControlId id, double value) {
        return changed(session, id, owner -> owner.with(id.key(), value));
    }

    /** A control's ride, suspended or not. */
    public static Optional<Ride> ride(Session session, ControlId id) {
        return owner(session, id).rides().find(id.key());
    }

    /** What moves a control now: its ride while that is active, with what clips lay on it. */
    public static Optional<Ride> moving(Session session, ControlId id) {
        return session.find(id.owner()).orElse(null) instanceof Track track
                ? ClipRides.laid(track, id.part(), control(session, id), owner(session, id))
                : ride(session, id).filter(Ride::active);
    }

    /** What a control reads over the song, by frame: what moves it says, or what it is set to. */
    public static LongToDoubleFunction line(Session session, ControlId id) {
        Control control = control(session, id);
        Optional<Ride> moving = moving(session, id);
        double set = set(session, id);
        return moving.<LongToDoubleFunction>map(ride -> frame -> control.limited(ride.at(frame, control.scale())))
                .orElse(frame -> set);
    }

    /** What a control reads at a frame of the song. */
    public static double reading(Session session, ControlId id, long frame) {
        return line(session, id).applyAsDouble(frame);
    }

    /** The least and the most that a ridden control reads at its curves' points: between them it goes no further. */
    public static double[] reach(Session session, ControlId id) {
        double least = Double.POSITIVE_INFINITY;
        double most = Double.NEGATIVE_INFINITY;
        Ride ride = moving(session, id).orElseGet(() -> still(session, id));
        LongToDoubleFunction line = line(session, id);
        for (Curve curve : List.of(ride.curve(), ride.offsetCurve())) {
            for (CurvePoint point : curve.points()) {
                double reading = line.applyAsDouble(point.frame());
                least = Math.min(least, reading);
                most = Math.max(most, reading);
            }
        }
        return new double[] {least, most};
    }

    /**
     * What a channel's fader comes to over the song with all VCAs above it, in dB by frame.
     *
     * @param above the VCAs that move the channel
     */
    public static LongToDoubleFunction resultLine(Session session, ChannelId channel, List<Vca> above) {
        List<LongToDoubleFunction> lines = Stream.concat(
                        Stream.of(channel), above.stream().map(Vca::id))
                .map(owner -> line(session, ControlId.ofStrip(owner, Strip.FADER.key())))
                .toList();
        return frame -> {
            double sum = 0;
            for (LongToDoubleFunction one : lines) {
                sum += one.applyAsDouble(frame);
            }
            return sum <= Control.SILENT_DB ? Double.NEGATIVE_INFINITY : sum;
        };
    }

    /** What a channel's fader comes to at a frame with all VCAs above it, in dB. */
    public static double result(Session session, ChannelId channel, List<Vca> above, long frame) {
        return resultLine(session, channel, above).applyAsDouble(frame);
    }

    /** Returns the session with another ride of a control; without one where it has no points. */
    public static Session with(Session session, ControlId id, Ride ride) {
        return changed(session, id, owner -> owner.withRides(owner.rides().with(id.key(), ride)));
    }

    private static Session changed(Session session, ControlId id, UnaryOperator<Ridable> change) {
        ChannelId owner = id.owner();
        return switch (id.part()) {
            case ControlId.OfStrip()
            when session.find(owner).isPresent() -> session.withStrip(owner, strip -> (Strip) change.apply(strip));
            case ControlId.OfStrip() ->
                session.withVcas(session.vcas().stream()
                        .map(vca -> vca.id().equals(owner) ? (Vca) change.apply(vca) : vca)
                        .toList());
            case ControlId.OfSend(int number) ->
                session.withStrip(owner, strip -> {
                    List<Send> sends = new ArrayList<>(strip.sends());
                    sends.set(number, (Send) change.apply(sends.get(number)));
                    return strip.withSends(sends);
                });
            case ControlId.OfInsert(SlotId slot) ->
                session.withStrip(
                        owner,
                        strip -> strip.withInserts(strip.inserts().stream()
                                .map(one -> one.id().equals(slot) ? (Insert) change.apply(one) : one)
                                .toList()));
        };
    }

    /** A ride that says from the song's beginning what the control is set to. */
    public static Ride still(Session session, ControlId id) {
        return Ride.of(new Curve(List.of(new CurvePoint(0, set(session, id), CurvePoint.Shape.LINE))));
    }

    /** The control's name on screen: of an insert or a send with whose it is. */
    public static String name(Session session, ControlId id) {
        String own = control(session, id).name();
        return switch (id.part()) {
            case ControlId.OfStrip() -> own;
            case ControlId.OfSend(int number) -> {
                ChannelId to = send(session, id, number).target().channel();
                yield "Send to " + session.find(to).map(Channel::name).orElse(to.value()) + ": "
                        + own.substring(0, 1).toLowerCase(Locale.ROOT) + own.substring(1);
            }
            case ControlId.OfInsert(SlotId slot) ->
                insert(session, id, slot).processor().kind().label() + ": "
                        + own.substring(0, 1).toLowerCase(Locale.ROOT) + own.substring(1);
        };
    }

    /** The owner's name on screen. */
    public static String ownerName(Session session, ControlId id) {
        return session.find(id.owner()).map(Channel::name).orElseGet(() -> vca(session, id)
                .name());
    }

    private static Ridable owner(Session session, ControlId id) {
        return switch (id.part()) {
            case ControlId.OfStrip() ->
                session.find(id.owner()).<Ridable>map(Channel::strip).orElseGet(() -> vca(session, id));
            case ControlId.OfSend(int number) -> send(session, id, number);
            case ControlId.OfInsert(SlotId slot) -> insert(session, id, slot);
        };
    }

    private static Vca vca(Session session, ControlId id) {
        return session.findVca(id.owner()).orElseThrow(() -> noSuch(id));
    }

    private static Send send(Session session, ControlId id, int number) {
        List<Send> sends = session.channel(id.owner()).strip().sends();
        if (number >= sends.size()) {
            throw noSuch(id);
        }
        return sends.get(number);
    }

    private static Insert insert(Session session, ControlId id, SlotId slot) {
        return session.channel(id.owner()).strip().inserts().stream()
                .filter(insert -> insert.id().equals(slot))
                .findFirst()
                .orElseThrow(() -> noSuch(id));
    }

    private static IllegalArgumentException noSuch(ControlId id) {
        return new IllegalArgumentException(
                "id: '" + id.path() + "' of '" + id.owner() + "' (expected: a control of the session)");
    }
}
