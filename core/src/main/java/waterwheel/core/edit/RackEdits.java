package waterwheel.core.edit;

import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import java.util.function.UnaryOperator;
import waterwheel.core.inserts.SlotId;
import waterwheel.core.rack.Cable;
import waterwheel.core.rack.Loop;
import waterwheel.core.rack.LoopTiming;
import waterwheel.core.rack.Port;
import waterwheel.core.rack.PortSide;
import waterwheel.core.rack.Rack;
import waterwheel.core.rack.Unit;
import waterwheel.core.rack.UnitId;
import waterwheel.core.session.Channel;
import waterwheel.core.session.Session;

/** The edits of the hardware around a session, and of the loops that lead to it. */
public final class RackEdits {
    private RackEdits() {}

    /** Changes the rack. */
    public static Edit rack(String name, UnaryOperator<Rack> change) {
        return new Edit(name, session -> session.withRack(change.apply(session.rack())));
    }

    /** Changes a hardware slot's way out and back. */
    public static Edit loop(Channel channel, SlotId slot, UnaryOperator<Loop> change) {
        return FlowEdits.insert(
                channel,
                slot,
                insert -> insert.withLoop(change.apply(insert.processor().loop())));
    }

    /** Patches a slot to ports, 0 for none; its timing was that of other ports. */
    public static Edit patch(Channel channel, SlotId slot, int sendPort, int returnPort) {
        return loop(
                channel,
                slot,
                loop -> loop.sendPort() == sendPort && loop.returnPort() == returnPort
                        ? loop
                        : loop.withPorts(sendPort, returnPort));
    }

    /** Notes what a slot's loop was found to do. */
    public static Edit timing(Channel channel, SlotId slot, LoopTiming timing) {
        return loop(channel, slot, loop -> loop.withTiming(Optional.of(timing)));
    }

    /** Changes one of the units. */
    public static Edit unit(Unit unit, UnaryOperator<Unit> change) {
        return rack(unit.name(), rack -> rack.unit(unit.id()).isEmpty() ? rack : rack.withUnit(change.apply(unit)));
    }

    /** Takes a unit out of the rack; loops that led to it are told of none. */
    public static Edit removeUnit(Unit unit) {
        return new Edit(unit.name() + " taken out of the rack", session -> {
            Session out = session.withRack(session.rack().without(unit.id()));
            for (Channel channel : session.channels()) {
                out = out.withStrip(
                        channel.id(),
                        strip -> strip.withInserts(strip.inserts().stream()
                                .map(insert -> insert.processor().loop().unit().equals(Optional.of(unit.id()))
                                        ? insert.withLoop(
                                                insert.processor().loop().withUnit(Optional.empty()))
                                        : insert)
                                .toList()));
            }
            return out;
        });
    }

    /** Plugs a unit into the simulated interface, or takes it out of it where the ports are 0. */
    public static Edit plug(Unit unit, int output, int input) {
        return rack("Cables of " + unit.name(), rack -> {
            List<Cable> cables = new ArrayList<>(rack.cables());
            cables.removeIf(cable -> cable.unit().equals(Optional.of(unit.id())));
            if (output > 0 && input > 0) {
                cables.add(new Cable(Optional.of(unit.id()), output, input));
            }
            return rack.withCables(cables);
        });
    }

    /** Changes a port's name or calibration. */
    public static Edit port(PortSide side, int number, UnaryOperator<Port> change) {
        return rack(side.label() + " " + number, rack -> rack.withPort(change.apply(rack.port(side, number))));
    }

    /** An id that no unit has. */
    public static UnitId freeUnit(Session session) {
        List<String> taken =
                session.rack().units().stream().map(unit -> unit.id().value()).toList();
        return new UnitId(Numbered.free("u", 1, taken));
    }
}
