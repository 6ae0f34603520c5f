package waterwheel.core.playback;

import java.util.Map;
import java.util.Optional;
import org.jspecify.annotations.Nullable;
import waterwheel.core.engine.Plan;
import waterwheel.core.engine.SignalId;
import waterwheel.core.path.Stage;
import waterwheel.core.session.ChannelId;

/**
 * The peaks at this moment. Where a placement mixes a channel's sides the peak is at most what is said here, because the
 * sides' peaks need not coincide.
 *
 * @param plan of which the peaks are
 * @param peaks of its signals, linear, one a plane; none while nothing plays
 */
public record LivePeaks(Plan plan, Map<SignalId, float[]> peaks) {
    private static final float[] SILENCE = {};

    /** The peak at a stage of a channel that there is one of, linear; 0 where it has none. */
    public double at(ChannelId channel, Stage stage) {
        return known(channel, stage, "").orElse(0.0);
    }

    /**
     * The peak at a stage of a channel, linear; empty for a stage that there is not, such as a bypassed insert.
     *
     * @param part which of several: an insert's slot; empty for the stages that there is one of
     */
    public Optional<Double> known(ChannelId channel, Stage stage, String part) {
        return plan.stage(channel, stage, part).map(this::at);
    }

    private double at(Plan.Place place) {
        float[] known = peaks.get(plan.signals().get(place.edge().from()).id());
        return place.edge().gain().loudest(known == null ? SILENCE : known);
    }

    /** The peak of the mix, linear. */
    public double mix() {
        float @Nullable [] known = peaks.get(plan.signals().get(plan.output()).id());
        double most = 0;
        for (float peak : known == null ? SILENCE : known) {
            most = Math.max(most, peak);
        }
        return most;
    }
}
