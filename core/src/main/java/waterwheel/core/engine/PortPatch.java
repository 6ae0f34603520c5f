package waterwheel.core.engine;

import java.util.ArrayList;
import java.util.Arrays;
import java.util.List;
import java.util.stream.Stream;

/**
 * Which signals of a plan go out by which ports: what loops send, interface pairs, and the monitor. What several send to
 * one port is summed. Allocates nothing after construction.
 */
public final class PortPatch {
    private final int[] signals;
    private final int[] ports;
    /** What is sent by loops comes first. */
    private final int loops;

    /**
     * Makes the patch of a plan.
     *
     * @param outputs how many the interface has
     * @param monitorPair the pair that the monitor goes to, from 1; the first where the interface has no such pair
     */
    public PortPatch(Plan plan, int outputs, int monitorPair) {
        int monitor = 2 * monitorPair <= outputs ? monitorPair : 1;
        List<Way> sends = new ArrayList<>();
        List<Way> others = new ArrayList<>();
        for (int i = 0; i < plan.signals().size(); i++) {
            switch (plan.signals().get(i)) {
                case Signal.Returned returned -> sends.add(new Way(returned.sent(), returned.sendPort()));
                case Signal.Sum(SignalId id, int _, var _)
                when id.point() == SignalId.Point.PAIR -> others.add(new Way(i, 2 * Integer.parseInt(id.part()) - 1));
                case Signal.Sum(SignalId id, int _, var _)
                when id.point() == SignalId.Point.MONITOR -> others.add(new Way(i, 2 * monitor - 1));
                default -> {}
            }
        }
        sends.removeIf(way -> !way.within(plan, outputs));
        others.removeIf(way -> !way.within(plan, outputs));
        loops = sends.size();
        signals = Stream.concat(sends.stream(), others.stream())
                .mapToInt(Way::signal)
                .toArray();
        ports = Stream.concat(sends.stream(), others.stream())
                .mapToInt(way -> way.port() - 1)
                .toArray();
    }

    /** A signal and the first port that it leaves by, from 1. */
    private record Way(int signal, int port) {
        boolean within(Plan plan, int outputs) {
            return port + plan.signals().get(signal).planes() - 1 <= outputs;
        }
    }

    /** Whether anything is sent by loops. */
    public boolean loops() {
        return loops > 0;
    }

    /** Puts only what loops send onto the ports; the others are silent. */
    public void collectSends(PlanRun run, float[][] out, int frames) {
        collect(run, out, frames, loops);
    }

    /** Puts a run's last block onto the ports, {@code [port][0 .. frames)}. */
    public void collect(PlanRun run, float[][] out, int frames) {
        collect(run, out, frames, signals.length);
    }

    private void collect(PlanRun run, float[][] out, int frames, int count) {
        for (float[] port : out) {
            Arrays.fill(port, 0, frames, 0);
        }
        for (int s = 0; s < count; s++) {
            float[][] from = run.signal(signals[s]);
            for (int p = 0; p < from.length; p++) {
                add(from[p], out[ports[s] + p], frames);
            }
        }
    }

    private static void add(float[] from, float[] to, int frames) {
        for (int i = 0; i < frames; i++) {
            to[i] += from[i];
        }
    }
}
