package waterwheel.core.simulation;

import java.util.ArrayList;
import java.util.Arrays;
import java.util.List;
import java.util.Optional;
import org.jspecify.annotations.Nullable;
import waterwheel.core.ports.AudioPort;
import waterwheel.core.ports.PacedClock;
import waterwheel.core.rack.Cable;
import waterwheel.core.rack.Port;
import waterwheel.core.rack.PortSide;
import waterwheel.core.rack.Rack;
import waterwheel.core.rack.Reamplifier;
import waterwheel.core.rack.Unit;

/**
 * An interface of eight inputs and outputs that is not there, with the units of a rack plugged in by its cables. What is
 * written comes back one buffer, the converters and the unit later. Nobody hears its outputs.
 */
public final class SimulatedInterface implements AudioPort {
    public static final String NAME = "Simulated interface";
    public static final int PORTS = 8;

    private final Rack rack;
    private final boolean paced;
    private final List<UnitDescription> descriptions;
    private PacedClock clock = new PacedClock(48_000);
    private List<Channel> channels = List.of();
    private float[][] block = new float[0][];
    /** What came in and was not read yet: as much as the buffer is long when a block is about to be read. */
    private float[][] waiting = new float[0][];

    /** One cable's channel: from an output through a unit to an input. */
    private record Channel(int output, int input, SimulatedUnit unit) {}

    /**
     * Makes an interface.
     *
     * @param paced whether it takes as long as a real one would
     */
    public SimulatedInterface(Rack rack, boolean paced) {
        this(rack, paced, List.of());
    }

    /** @param descriptions of the units by their place in the rack, instead of those of their simulations */
    SimulatedInterface(Rack rack, boolean paced, List<UnitDescription> descriptions) {
        this.rack = rack;
        this.paced = paced;
        this.descriptions = descriptions;
    }

    @Override
    public String name() {
        return NAME;
    }

    @Override
    public boolean silent() {
        return true;
    }

    @Override
    public int inputs() {
        return PORTS;
    }

    @Override
    public int outputs() {
        return PORTS;
    }

    @Override
    public int roundTripFrames() {
        return block.length == 0 ? 0 : block[0].length + SimulatedUnit.CONVERTER_FRAMES;
    }

    @Override
    public void open(int sampleRateHz, int maxFrames) {
        clock = new PacedClock(sampleRateHz);
        block = new float[PORTS][maxFrames];
        waiting = new float[PORTS][maxFrames];
        List<Channel> plugged = new ArrayList<>();
        for (Cable cable : rack.cables()) {
            plug(cable, sampleRateHz, maxFrames, plugged);
        }
        channels = plugged;
    }

    private void plug(Cable cable, int rate, int maxFrames, List<Channel> plugged) {
        Unit unit = cable.unit().flatMap(rack::unit).orElse(null);
        Optional<UnitDescription> description = description(unit);
        int count = unit == null ? 1 : unit.channels();
        for (int c = 0; c < count; c++) {
            int output = cable.output() + c;
            int input = cable.input() + c;
            if (description.isEmpty() || output > PORTS || input > PORTS) {
                continue;
            }
            double pad = unit == null ? 0 : unit.padDb();
            boolean lifted = unit != null
                    && unit.reamplifier().map(Reamplifier::groundLifted).orElse(false);
            plugged.add(new Channel(
                    output - 1,
                    input - 1,
                    new SimulatedUnit(
                            description.get(),
                            unit == null ? List.of() : unit.knobs(),
                            port(PortSide.OUTPUT, output).fullScaleDbu() - pad,
                            -port(PortSide.INPUT, input).fullScaleDbu(),
                            lifted,
                            rate,
                            maxFrames,
                            1_000L * output + input)));
        }
    }

    private Port port(PortSide side, int number) {
        return rack.port(side, number);
    }

    /** A unit of metal is not simulated: nothing comes back from it. */
    private Optional<UnitDescription> description(@Nullable Unit unit) {
        if (unit == null) {
            return Optional.of(UnitDescription.CABLE);
        }
        return descriptions.isEmpty()
                ? SimulatedUnits.find(unit.simulation())
                : Optional.of(descriptions.get(rack.units().indexOf(unit)));
    }

    @Override
    public void read(float[][] in, int frames) {
        for (int p = 0; p < Math.min(in.length, PORTS); p++) {
            System.arraycopy(waiting[p], 0, in[p], 0, frames);
        }
        for (float[] port : waiting) {
            System.arraycopy(port, frames, port, 0, port.length - frames);
        }
    }

    @Override
    public void write(float[][] out, int frames) {
        int from = waiting[0].length - frames;
        for (float[] port : waiting) {
            Arrays.fill(port, from, from + frames, 0);
        }
        for (Channel channel : channels) {
            float[] signal = block[channel.output()];
            if (channel.output() < out.length) {
                System.arraycopy(out[channel.output()], 0, signal, 0, frames);
            } else {
                Arrays.fill(signal, 0, frames, 0);
            }
            Converter.convert(signal, frames);
            channel.unit().process(signal, frames);
            float[] input = waiting[channel.input()];
            for (int i = 0; i < frames; i++) {
                input[from + i] += signal[i];
            }
        }
        for (float[] port : waiting) {
            System.arraycopy(port, from, block[0], 0, frames);
            Converter.convert(block[0], frames);
            System.arraycopy(block[0], 0, port, from, frames);
        }
        if (paced) {
            clock.pass(frames);
        }
    }

    @Override
    public void close() {}
}
