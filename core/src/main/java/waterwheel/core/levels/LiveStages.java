package waterwheel.core.levels;

import java.util.List;
import java.util.Map;
import org.jspecify.annotations.Nullable;
import waterwheel.core.engine.SignalId;
import waterwheel.core.engine.StageGains;
import waterwheel.core.inserts.Insert;
import waterwheel.core.routing.Audibility;
import waterwheel.core.session.Channel;
import waterwheel.core.session.Session;
import waterwheel.core.session.Track;

/**
 * The peaks of a channel's stages at this moment, from the peaks of its signals. After a placement that mixes its sides
 * the peak is at most what is said here, because the sides' peaks need not coincide.
 */
public record LiveStages(double first, double clips, double trim, double fader, double placement, double output) {
    /**
     * Computes the stages' peaks.
     *
     * @param peaks of the plan's signals, linear, one a plane; none while nothing plays
     */
    public static LiveStages of(Session session, Channel channel, Map<SignalId, float[]> peaks) {
        double first = loudest(peaks.get(first(channel)));
        double clips = first * StageGains.clips(channel);
        double trim = afterTrim(channel, peaks);
        float[] chain = chain(channel, peaks);
        double loudest = loudest(chain);
        double fader = afterFader(session, channel, peaks);
        double placed = 0;
        if (chain.length > 0 && loudest > 0) {
            double[][] gains = channel.strip().placement().gains(session.panLaw(), chain.length);
            for (double[] row : gains) {
                double sum = 0;
                for (int p = 0; p < row.length; p++) {
                    sum += Math.abs(row[p]) * chain[p];
                }
                placed = Math.max(placed, sum / loudest * fader);
            }
        }
        boolean sounds = Audibility.sounding(session).contains(channel.id());
        return new LiveStages(first, clips, trim, fader, placed, sounds ? placed : 0);
    }

    /** The peak after the trim alone, linear, like {@link #afterFader}. */
    public static double afterTrim(Channel channel, Map<SignalId, float[]> peaks) {
        return loudest(peaks.get(first(channel))) * Math.abs(StageGains.toTrim(channel));
    }

    /** The peak after the fader alone, linear: all that a row of many needs, every frame. */
    public static double afterFader(Session session, Channel channel, Map<SignalId, float[]> peaks) {
        return loudest(chain(channel, peaks))
                * Math.abs(StageGains.beforeFader(channel))
                * StageGains.fader(session, channel);
    }

    private static SignalId first(Channel channel) {
        return new SignalId(channel.id(), channel instanceof Track ? SignalId.Point.SOURCE : SignalId.Point.INPUT);
    }

    /** The peaks behind the last insert that is not bypassed. */
    private static float[] chain(Channel channel, Map<SignalId, float[]> peaks) {
        List<Insert> inserts = channel.strip().activeInserts();
        SignalId end = inserts.isEmpty()
                ? first(channel)
                : new SignalId(
                        channel.id(),
                        SignalId.Point.INSERT,
                        inserts.getLast().id().value());
        return peaks.getOrDefault(end, new float[0]);
    }

    /** The peak of the mix, linear. */
    public static double ofMain(Session session, Map<SignalId, float[]> peaks) {
        return loudest(peaks.get(new SignalId(session.mainId(), SignalId.Point.OUTPUT)));
    }

    private static double loudest(float @Nullable [] peaks) {
        double most = 0;
        if (peaks == null) {
            return most;
        }
        for (float peak : peaks) {
            most = Math.max(most, peak);
        }
        return most;
    }

    /** The peak at a stage that every channel has one of, linear. */
    public double at(Stage stage) {
        return switch (stage) {
            case SOURCE, INPUT -> first;
            case CLIPS -> clips;
            case TRIM, INSERT -> trim;
            case FADER -> fader;
            case PLACEMENT -> placement;
            case OUTPUT -> output;
        };
    }
}
