package waterwheel.core.staging;

import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import waterwheel.core.edit.Edit;
import waterwheel.core.levels.SongMeasure;
import waterwheel.core.metering.LevelSeries;
import waterwheel.core.metering.Loudness;
import waterwheel.core.path.Stage;
import waterwheel.core.rides.Curve;
import waterwheel.core.rides.CurvePoint;
import waterwheel.core.rides.Ride;
import waterwheel.core.session.ChannelId;
import waterwheel.core.session.ControlId;
import waterwheel.core.session.Controls;
import waterwheel.core.session.Section;
import waterwheel.core.session.Session;
import waterwheel.core.session.Strip;
import waterwheel.core.units.Ranges;
import waterwheel.core.work.Progress;

/**
 * Keeps a channel within a range of its own loudness, phrase by phrase, by its fader: a phrase whose loudness lies further
 * from the channel's integrated loudness is brought to the end of the range, as a whole, and the fader moves between
 * phrases. What lies within the range stays as it is.
 *
 * @param rangeLu how far from its own loudness a phrase may lie, 0.5 to 12 LU
 * @param restSeconds rests that are shorter do not end a phrase
 * @param longestSeconds a phrase that is longer is taken in equal parts
 * @param moveSeconds how long the fader moves from phrase to phrase, at the most
 */
public record HoldLevel(double rangeLu, double restSeconds, double longestSeconds, double moveSeconds) {
    public static final HoldLevel USUAL = new HoldLevel(2, 0.4, 6, 0.4);
    public static final double LEAST_LU = 0.5;
    public static final double MOST_LU = 12;

    /** The most that a phrase is raised or lowered. */
    private static final double MOST_DB = 12;

    private static final double ABOVE_FLOOR_DB = 12;
    /** A smaller correction is none. */
    private static final double LEAST_DB = 0.1;

    public HoldLevel {
        Ranges.checked("rangeLu", rangeLu, LEAST_LU, MOST_LU);
    }

    public HoldLevel withRangeLu(double value) {
        return new HoldLevel(value, restSeconds, longestSeconds, moveSeconds);
    }

    /**
     * Proposes a ride of a channel's fader, added to the one that it has.
     *
     * @return empty where every phrase lies within the range, or there is none
     * @throws java.util.concurrent.CancellationException if the progress says stop
     */
    public Optional<RideProposal> of(SongMeasure song, Session session, ChannelId channel, Progress progress) {
        LevelSeries series = song.at(session, channel, Stage.FADER, progress.part(0, 0.5));
        List<Activity> phrases = phrases(series);
        Curve curve = curve(series);
        if (curve.isNone()) {
            return Optional.empty();
        }
        ControlId fader = ControlId.ofStrip(channel, Strip.FADER.key());
        Edit edit = new Edit("Level of " + session.channel(channel).name() + " held", s -> {
            Ride own = Controls.ride(s, fader).orElse(Controls.still(s, fader));
            return Controls.with(
                    s,
                    fader,
                    own.withCurve(own.curve().plus(curve).mapped(Strip.FADER::limited))
                            .withSuspended(false));
        });
        Session after = edit.apply(session);
        LevelSeries held = song.at(after, channel, Stage.FADER, progress.part(0.5, 1));
        return Optional.of(new RideProposal(
                edit,
                after,
                "From the softest to the loudest phrase of "
                        + session.channel(channel).name() + ", LU",
                RideProposal.changes(
                        session,
                        section -> spread(series, phrases, section),
                        section -> spread(held, phrases, section))));
    }

    /** How far the phrases of a section lie from each other in LU; not a number where there are not two. */
    private static double spread(LevelSeries series, List<Activity> phrases, Section section) {
        double[] loudness = phrases.stream()
                .filter(phrase -> phrase.from() >= section.startFrames() && phrase.from() < section.endFrames())
                .mapToDouble(phrase -> Loudness.integratedLufs(series.during(phrase.from(), phrase.to())))
                .filter(Double::isFinite)
                .sorted()
                .toArray();
        return loudness.length < 2 ? Double.NaN : loudness[loudness.length - 1] - loudness[0];
    }

    /** The phrases of a signal. */
    List<Activity> phrases(LevelSeries series) {
        long longest = Math.round(longestSeconds * series.sampleRateHz());
        List<Activity> all = new ArrayList<>();
        for (Activity active : Activity.of(series, restSeconds, ABOVE_FLOOR_DB)) {
            long frames = active.to() - active.from();
            long parts = (frames + longest - 1) / longest;
            for (long part = 0; part < parts; part++) {
                all.add(new Activity(
                        active.from() + frames * part / parts, active.from() + frames * (part + 1) / parts));
            }
        }
        return all;
    }

    /** What the fader adds, in dB over the song; {@link Curve#NONE} where nothing lies beyond the range. */
    Curve curve(LevelSeries series) {
        double own = Loudness.integratedLufs(series);
        List<Activity> phrases = phrases(series);
        if (!Double.isFinite(own) || phrases.isEmpty()) {
            return Curve.NONE;
        }
        double[] gains = phrases.stream()
                .mapToDouble(phrase -> gain(Loudness.integratedLufs(series.during(phrase.from(), phrase.to())) - own))
                .toArray();
        long half = Math.round(moveSeconds * series.sampleRateHz() / 2);
        List<CurvePoint> points = new ArrayList<>();
        points.add(new CurvePoint(0, gains[0], CurvePoint.Shape.HOLD));
        for (int i = 1; i < gains.length; i++) {
            if (gains[i] != gains[i - 1]) {
                // It moves in the rest before the phrase; without one, around where the phrase begins.
                long rest = phrases.get(i).from() - phrases.get(i - 1).to();
                long end = rest > 0 ? phrases.get(i).from() : phrases.get(i).from() + half;
                long begin = Math.max(
                        rest > 0 ? Math.max(end - 2 * half, phrases.get(i - 1).to()) : end - 2 * half,
                        points.getLast().frame() + 1);
                points.add(new CurvePoint(begin, gains[i - 1], CurvePoint.Shape.LINE));
                points.add(new CurvePoint(Math.max(begin + 1, end), gains[i], CurvePoint.Shape.HOLD));
            }
        }
        boolean idle = points.stream().allMatch(point -> point.value() == 0);
        return idle ? Curve.NONE : new Curve(points);
    }

    private double gain(double distanceLu) {
        double excess = Math.max(0, Math.abs(distanceLu) - rangeLu);
        boolean unheard = !Double.isFinite(distanceLu) || excess < LEAST_DB;
        return unheard ? 0 : Math.rint(Math.clamp(-Math.signum(distanceLu) * excess, -MOST_DB, MOST_DB) * 100) / 100;
    }
}
