package waterwheel.core.engine;

import java.util.ArrayList;
import java.util.Arrays;
import java.util.Comparator;
import java.util.List;

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
        List<int[]> all = new ArrayList<>();
        for (int i = 0; i < plan.signals().size(); i++) {
            SignalId id = plan.signals().get(i).id();
            int port =
                    switch (plan.signals().get(i)) {
                        case Signal.Returned returned -> returned.sendPort();
                        case Signal.Sum _ when id.point() == SignalId.Point.PAIR -> 2 * Integer.parseInt(id.part()) - 1;
                        case Signal.Sum _ when id.point() == SignalId.Point.MONITOR -> 2 * monitor - 1;
                        default -> 0;
                    };
            int signal = plan.signals().get(i) instanceof Signal.Returned returned ? returned.sent() : i;
            if (port > 0) {
                all.add(new int[] {signal, port - 1});
            }
        }
        all.sort(Comparator.comparing(one -> !sentBy(plan, one[0])));
        all.removeIf(one -> one[1] + plan.signals().get(one[0]).planes() > outputs);
        signals = all.stream().mapToInt(one -> one[0]).toArray();
        ports = all.stream().mapToInt(one -> one[1]).toArray();
        loops = (int) all.stream().filter(one -> sentBy(plan, one[0])).count();
    }

    private static boolean sentBy(Plan plan, int signal) {
        return plan.signals().get(signal).id().point() == SignalId.Point.SENT;
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
