package waterwheel.core.playback;

import java.util.HashMap;
import java.util.Map;
import waterwheel.core.engine.PeakTap;
import waterwheel.core.engine.Plan;
import waterwheel.core.engine.PlanRun;
import waterwheel.core.engine.SignalId;

/** Taps on every signal of a running plan. */
final class LiveMeters {
    private final Map<SignalId, PeakTap[]> taps = new HashMap<>();

    LiveMeters(Plan plan) {
        plan.heard().stream().mapToObj(plan.signals()::get).forEach(signal -> {
            PeakTap[] planes = new PeakTap[signal.planes()];
            for (int p = 0; p < planes.length; p++) {
                planes[p] = new PeakTap();
            }
            taps.put(signal.id(), planes);
        });
    }

    void attach(PlanRun run) {
        for (int i = 0; i < run.plan().signals().size(); i++) {
            PeakTap[] planes = taps.get(run.plan().signals().get(i).id());
            if (planes != null) {
                run.tap(i, planes);
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
}
