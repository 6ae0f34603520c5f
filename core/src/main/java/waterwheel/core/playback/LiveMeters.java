package waterwheel.core.playback;

import java.util.HashMap;
import java.util.Map;
import waterwheel.core.engine.PeakTap;
import waterwheel.core.engine.Plan;
import waterwheel.core.engine.PlanRun;
import waterwheel.core.engine.Signal;
import waterwheel.core.engine.SignalId;
import waterwheel.core.engine.StageGains;
import waterwheel.core.session.Channel;
import waterwheel.core.session.ChannelId;
import waterwheel.core.session.Session;

/** Peaks of every signal of a running plan, and a meter for every channel. */
final class LiveMeters {
    private final Map<SignalId, PeakTap[]> taps = new HashMap<>();
    /** By the signal behind an insert: how much that turns down, in dB. */
    private final Map<SignalId, PeakTap> reductions = new HashMap<>();

    private final Map<ChannelId, ChannelMeter> channels = new HashMap<>();

    LiveMeters(Plan plan) {
        plan.heard().stream().mapToObj(plan.signals()::get).forEach(signal -> {
            PeakTap[] planes = new PeakTap[signal.planes()];
            for (int p = 0; p < planes.length; p++) {
                planes[p] = new PeakTap();
            }
            taps.put(signal.id(), planes);
        });
    }

    /** Has every channel metered after its trim, and the main bus after its fader. */
    void attach(Session session, PlanRun run) {
        for (Channel channel : session.channels()) {
            boolean main = channel.id().equals(session.mainId());
            int index = main ? run.plan().output() : run.plan().first(channel.id());
            double gain = main ? 1 : StageGains.toTrim(channel);
            ChannelMeter meter = new ChannelMeter(
                    session.sampleRateHz(), run.plan().signals().get(index).planes(), gain);
            channels.put(channel.id(), meter);
            run.listen(index, meter);
        }
        attach(run);
    }

    /** Goes on where the meters of another run stand. */
    void adopt(LiveMeters before) {
        channels.forEach((id, meter) -> {
            ChannelMeter earlier = before.channels.get(id);
            if (earlier != null) {
                meter.adopt(earlier);
            }
        });
    }

    Map<ChannelId, ChannelMeter> channels() {
        return channels;
    }

    private void attach(PlanRun run) {
        for (int i = 0; i < run.plan().signals().size(); i++) {
            PeakTap[] planes = taps.get(run.plan().signals().get(i).id());
            if (planes != null) {
                run.tap(i, planes);
            }
            Signal signal = run.plan().signals().get(i);
            if (signal instanceof Signal.Processed && planes != null) {
                PeakTap tap = new PeakTap();
                reductions.put(signal.id(), tap);
                run.tapReduction(i, tap);
            }
        }
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
