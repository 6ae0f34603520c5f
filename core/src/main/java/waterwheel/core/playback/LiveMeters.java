package waterwheel.core.playback;

import java.util.HashMap;
import java.util.LinkedHashMap;
import java.util.Map;
import java.util.Objects;
import waterwheel.core.engine.PeakTap;
import waterwheel.core.engine.Plan;
import waterwheel.core.engine.PlanRun;
import waterwheel.core.engine.Signal;
import waterwheel.core.engine.SignalId;
import waterwheel.core.engine.SignalListener;
import waterwheel.core.session.ChannelId;

/** Peaks of every signal of a running plan, and a meter for every channel. */
final class LiveMeters {
    private final Map<SignalId, PeakTap[]> taps = new HashMap<>();
    /** By the signal behind an insert: how much that turns down, in dB. */
    private final Map<SignalId, PeakTap> reductions = new HashMap<>();

    private final Map<ChannelId, Slot> slots = new LinkedHashMap<>();

    /** Where a channel's meter stands; another one comes when the channel changes. */
    private static final class Slot implements SignalListener {
        private ChannelMeter meter;

        Slot(ChannelMeter meter) {
            this.meter = meter;
        }

        @Override
        public void hear(float[][] signal, long firstFrame, int frames) {
            meter.hear(signal, firstFrame, frames);
        }
    }

    /** A set of meters, one a channel, in the same order for plans of the same shape. */
    static final class Meters {
        private final Map<ChannelId, ChannelMeter> byChannel = new LinkedHashMap<>();
        private final ChannelMeter[] inOrder;

        /** New meters: of every channel after its trim, and of the main bus after its fader. */
        Meters(Plan plan) {
            plan.metered()
                    .forEach((channel, edge) -> byChannel.put(
                            channel,
                            new ChannelMeter(
                                    plan.sampleRateHz(),
                                    plan.signals().get(edge.from()).planes(),
                                    edge.gain().loudest(new float[] {1}))));
            inOrder = byChannel.values().toArray(ChannelMeter[]::new);
        }

        Map<ChannelId, ChannelMeter> byChannel() {
            return byChannel;
        }
    }

    private final Slot[] inOrder;

    /** Has a run metered; its first block must not have been computed yet. */
    LiveMeters(Plan plan, PlanRun run, Meters meters) {
        plan.metered().forEach((channel, edge) -> {
            Slot slot = new Slot(Objects.requireNonNull(meters.byChannel().get(channel)));
            slots.put(channel, slot);
            run.listen(edge.from(), slot);
        });
        inOrder = slots.values().toArray(Slot[]::new);
        plan.heard().stream().forEach(i -> attach(run, i, plan.signals().get(i)));
    }

    private void attach(PlanRun run, int index, Signal signal) {
        PeakTap[] planes = new PeakTap[signal.planes()];
        for (int p = 0; p < planes.length; p++) {
            planes[p] = new PeakTap();
        }
        taps.put(signal.id(), planes);
        run.tap(index, planes);
        if (signal instanceof Signal.Processed) {
            PeakTap tap = new PeakTap();
            reductions.put(signal.id(), tap);
            run.tapReduction(index, tap);
        }
    }

    /** Goes on with other meters of the same channels; for the playing thread, between blocks. */
    void use(Meters meters) {
        for (int i = 0; i < inOrder.length; i++) {
            meters.inOrder[i].adopt(inOrder[i].meter);
            inOrder[i].meter = meters.inOrder[i];
        }
    }

    /** Goes on where the meters of another run stand. */
    void adopt(LiveMeters before) {
        slots.forEach((id, slot) -> {
            Slot earlier = before.slots.get(id);
            if (earlier != null) {
                slot.meter.adopt(earlier.meter);
            }
        });
    }

    Map<SignalId, float[]> take() {
        Map<SignalId, float[]> peaks = new HashMap<>();
        taps.forEach((id, planes) -> {
            float[] values = new float[planes.length];
            for (int p = 0; p < planes.length; p++) {
                values[p] = planes[p].take();
            }
            peaks.put(id, values);
        });
        return peaks;
    }

    Map<SignalId, Double> takeReductions() {
        Map<SignalId, Double> taken = new HashMap<>();
        reductions.forEach((id, tap) -> taken.put(id, (double) tap.take()));
        return taken;
    }
}
