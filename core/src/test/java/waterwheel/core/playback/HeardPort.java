package waterwheel.core.playback;

import static org.assertj.core.api.Assertions.assertThat;

import java.util.concurrent.locks.LockSupport;
import java.util.function.BooleanSupplier;
import waterwheel.core.ports.ForwardingPort;
import waterwheel.core.rack.Rack;
import waterwheel.core.simulation.SimulatedInterface;

/** A simulated interface that keeps the last sample of each block on its left output. */
class HeardPort extends ForwardingPort {
    private volatile float heard;
    /** How many blocks went out. */
    volatile long blocks;

    HeardPort() {
        super(new SimulatedInterface(Rack.NONE, true));
    }

    @Override
    public void write(float[][] out, int frames) {
        super.write(out, frames);
        heard = out[0][frames - 1];
        // Only the playing thread writes.
        long count = blocks + 1;
        blocks = count;
    }

    static void until(String what, BooleanSupplier reached) {
        long end = System.nanoTime() + 10_000_000_000L;
        while (!reached.getAsBoolean() && System.nanoTime() < end) {
            LockSupport.parkNanos(1_000_000);
        }
        assertThat(reached.getAsBoolean()).as(what).isTrue();
    }

    /** Waits until what is heard is a level, to within another, and stays that for some blocks. */
    void hears(double level, double within) {
        until("heard " + level + ", was " + heard, () -> {
            for (int block = 0; block < 5; block++) {
                long count = blocks;
                long end = System.nanoTime() + 100_000_000;
                while (blocks == count && System.nanoTime() < end) {
                    LockSupport.parkNanos(200_000);
                }
                if (Math.abs(heard - level) > within) {
                    return false;
                }
            }
            return true;
        });
    }
}
