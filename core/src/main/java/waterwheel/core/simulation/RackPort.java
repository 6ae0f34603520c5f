package waterwheel.core.simulation;

import waterwheel.core.ports.AudioPort;
import waterwheel.core.ports.JackPort;
import waterwheel.core.ports.JavaSoundPort;
import waterwheel.core.ports.SilentPort;
import waterwheel.core.rack.Driver;
import waterwheel.core.rack.Rack;

/** The port that a rack's driver stands for. */
public final class RackPort {
    private RackPort() {}

    /** In real time; where the system has no output, a silent clock. */
    public static AudioPort of(Rack rack, int sampleRateHz) {
        return switch (rack.driver()) {
            case SYSTEM ->
                JavaSoundPort.available(rack.device().name(), sampleRateHz)
                        ? new JavaSoundPort(rack.device().name())
                        : new SilentPort();
            case SERVER -> new JackPort();
            case SIMULATED -> new SimulatedInterface(rack, true);
        };
    }

    /** Whether two racks are served by one open port. */
    public static boolean same(Rack one, Rack other) {
        return one.device().equals(other.device())
                && (one.driver() != Driver.SIMULATED
                        || (one.cables().equals(other.cables())
                                && one.units().equals(other.units())
                                && one.ports().equals(other.ports())));
    }

    /** As fast as it will go, which for real hardware is real time: to time loops and to capture. */
    public static AudioPort fast(Rack rack, int sampleRateHz) {
        return switch (rack.driver()) {
            case SYSTEM, SERVER -> of(rack, sampleRateHz);
            case SIMULATED -> new SimulatedInterface(rack, false);
        };
    }
}
