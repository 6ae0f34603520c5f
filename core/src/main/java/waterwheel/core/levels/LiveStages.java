package waterwheel.core.levels;

import waterwheel.core.engine.StageGains;
import waterwheel.core.routing.Audibility;
import waterwheel.core.session.Channel;
import waterwheel.core.session.Session;
import waterwheel.core.session.Strip;

/**
 * The peaks of a channel's stages at this moment, from the peak of its first signal. After a placement that mixes its
 * sides the peak is at most what is said here, because the sides' peaks need not coincide.
 */
public record LiveStages(double first, double clips, double trim, double fader, double placement, double output) {
    /**
     * Computes the stages' peaks.
     *
     * @param peaks of the channel's first signal, linear, one a plane; none while nothing plays
     */
    public static LiveStages of(Session session, Channel channel, float[] peaks) {
        Strip strip = channel.strip();
        double loudest = 0;
        for (float peak : peaks) {
            loudest = Math.max(loudest, peak);
        }
        double clips = loudest * StageGains.clips(channel);
        double trim = clips * Math.abs(StageGains.trim(strip));
        double fader = trim * StageGains.fader(strip);
        double placed = 0;
        if (peaks.length > 0 && loudest > 0) {
            double[][] gains = strip.placement().gains(session.panLaw(), peaks.length);
            for (double[] row : gains) {
                double sum = 0;
                for (int p = 0; p < row.length; p++) {
                    sum += Math.abs(row[p]) * peaks[p];
                }
                placed = Math.max(placed, sum / loudest * fader);
            }
        }
        boolean sounds = Audibility.sounding(session).contains(channel.id());
        return new LiveStages(loudest, clips, trim, fader, placed, sounds ? placed : 0);
    }

    /** The peak at a stage, linear. */
    public double at(Stage stage) {
        return switch (stage) {
            case SOURCE, INPUT -> first;
            case CLIPS -> clips;
            case TRIM -> trim;
            case FADER -> fader;
            case PLACEMENT -> placement;
            case OUTPUT -> output;
        };
    }
}
