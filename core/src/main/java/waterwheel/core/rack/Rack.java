package waterwheel.core.rack;

import java.util.ArrayList;
import java.util.Comparator;
import java.util.HashSet;
import java.util.List;
import java.util.Optional;
import java.util.Set;

/**
 * The hardware of a session.
 *
 * @param device by what audio goes in and out
 * @param monitorPair the stereo pair of outputs that the mix is heard on: 1 is outputs 1 and 2
 * @param ports those with a name or a calibration of their own, by side and number
 * @param cables how units are plugged into the simulated interface
 */
public record Rack(
        Device device,
        int monitorPair,
        List<Port> ports,
        List<Unit> units,
        List<Cable> cables,
        RecordingSettings recording) {
    public static final Rack NONE = new Rack(Driver.SYSTEM, 1, List.of(), List.of(), List.of());

    /** With a driver's usual device, where one records as usual. */
    public Rack(Driver driver, int monitorPair, List<Port> ports, List<Unit> units, List<Cable> cables) {
        this(Device.usual(driver), monitorPair, ports, units, cables, RecordingSettings.DEFAULT);
    }

    public Rack {
        if (monitorPair < 1 || monitorPair > Port.MOST / 2) {
            throw new IllegalArgumentException(
                    "monitorPair: " + monitorPair + " (expected: 1 to " + Port.MOST / 2 + ")");
        }
        ports = ports.stream()
                .sorted(Comparator.comparing(Port::side).thenComparingInt(Port::number))
                .toList();
        units = List.copyOf(units);
        cables = List.copyOf(cables);
        Set<UnitId> ids = new HashSet<>();
        for (Unit unit : units) {
            if (!ids.add(unit.id())) {
                throw new IllegalArgumentException("units: '" + unit.id() + "' twice (expected: unique ids)");
            }
        }
        for (Cable cable : cables) {
            cable.unit().filter(unit -> !ids.contains(unit)).ifPresent(unit -> {
                throw new IllegalArgumentException("cables: '" + unit + "' (expected: the id of a unit)");
            });
        }
    }

    public Optional<Unit> unit(UnitId id) {
        return units.stream().filter(unit -> unit.id().equals(id)).findFirst();
    }

    /** A port as it is set, or as usual. */
    public Port port(PortSide side, int number) {
        return ports.stream()
                .filter(port -> port.side() == side && port.number() == number)
                .findFirst()
                .orElseGet(() -> Port.usual(side, number));
    }

    public Driver driver() {
        return device.driver();
    }

    /** How many frames go in and out at a time. */
    public int blockFrames() {
        return device.blockFrames();
    }

    public Rack withDevice(Device value) {
        return new Rack(value, monitorPair, ports, units, cables, recording);
    }

    public Rack withDriver(Driver value) {
        return withDevice(device.withDriver(value));
    }

    public Rack withMonitorPair(int value) {
        return new Rack(device, value, ports, units, cables, recording);
    }

    /** Returns the rack with a port set; one that is as usual is not kept. */
    public Rack withPort(Port value) {
        List<Port> changed = new ArrayList<>(ports);
        changed.removeIf(port -> port.side() == value.side() && port.number() == value.number());
        if (!value.equals(Port.usual(value.side(), value.number()))) {
            changed.add(value);
        }
        return new Rack(device, monitorPair, changed, units, cables, recording);
    }

    /** Returns the rack with a unit in place of the one of its id, or with one more. */
    public Rack withUnit(Unit value) {
        List<Unit> changed = new ArrayList<>(units);
        changed.replaceAll(unit -> unit.id().equals(value.id()) ? value : unit);
        if (!changed.contains(value)) {
            changed.add(value);
        }
        return new Rack(device, monitorPair, ports, changed, cables, recording);
    }

    /** Returns the rack without a unit and its cables. */
    public Rack without(UnitId id) {
        return new Rack(
                device,
                monitorPair,
                ports,
                units.stream().filter(unit -> !unit.id().equals(id)).toList(),
                cables.stream()
                        .filter(cable -> !cable.unit().equals(Optional.of(id)))
                        .toList(),
                recording);
    }

    public Rack withCables(List<Cable> value) {
        return new Rack(device, monitorPair, ports, units, value, recording);
    }

    public Rack withRecording(RecordingSettings value) {
        return new Rack(device, monitorPair, ports, units, cables, value);
    }
}
