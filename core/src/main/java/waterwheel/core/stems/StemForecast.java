package waterwheel.core.stems;

import java.util.ArrayList;
import java.util.BitSet;
import java.util.HashSet;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Set;
import waterwheel.core.captures.CaptureRun;
import waterwheel.core.captures.HardwareSlot;
import waterwheel.core.captures.StemShare;
import waterwheel.core.engine.Media;
import waterwheel.core.engine.Plan;
import waterwheel.core.engine.PlanCompiler;
import waterwheel.core.levels.SongMeasure;
import waterwheel.core.metering.Figures;
import waterwheel.core.metering.LevelSeries;
import waterwheel.core.path.GainMatrix;
import waterwheel.core.session.Channel;
import waterwheel.core.session.ChannelId;
import waterwheel.core.session.Session;
import waterwheel.core.units.Decibels;
import waterwheel.core.work.Progress;

/**
 * What a render will give, known before it runs.
 *
 * @param stems in session order, the silent ones among them
 * @param gainDb the gain on the mix, and on every stem that has none of its own
 * @param mix the mix with that gain
 */
public record StemForecast(List<Stem> stems, double gainDb, Figures mix) {
    public StemForecast {
        stems = List.copyOf(stems);
    }

    /**
     * One stem.
     *
     * @param channel the track or bus that it is
     * @param fileName its file's name without an ending, unlike all others in the render
     * @param gainDb its gain
     * @param inMix false for a click or cue, which is kept apart
     * @param figures what it will measure, gain included
     */
    public record Stem(ChannelId channel, String name, String fileName, double gainDb, boolean inMix, Figures figures) {
        /** Silent stems are not written. */
        public boolean silent() {
            return figures.silent();
        }
    }

    /** The stems that are written. */
    public List<Stem> written() {
        return stems.stream().filter(stem -> !stem.silent()).toList();
    }

    /** The same render under another policy and with other names, without measuring again. */
    public static StemForecast of(Session session, Measured measured, LevelPolicy policy, NamePattern names) {
        Figures mixed = Figures.of(measured.mix());
        double loudest = Double.NEGATIVE_INFINITY;
        List<StemDivision.Group> groups = measured.division().of(session);
        for (StemDivision.Group group : groups) {
            LevelSeries series = measured.stems().get(group.channel().id());
            if (!group.cue() && series != null) {
                loudest = Math.max(loudest, peakDbfs(series));
            }
        }
        double gainDb = policy.gainDb(loudest, mixed);

        List<Stem> stems = new ArrayList<>();
        Set<String> taken = new HashSet<>(Set.of(FileNames.alike(StemResult.MIX)));
        for (StemDivision.Group group : groups) {
            Channel channel = group.channel();
            LevelSeries series = measured.stems().get(channel.id());
            if (series != null) {
                double ownDb = group.cue() ? gainDb : policy.gainDb(Figures.of(series), gainDb);
                stems.add(new Stem(
                        channel.id(),
                        channel.name(),
                        FileNames.unique(
                                names.named(stems.size() + 1, channel.name(), session.title(), session.sampleRateHz()),
                                taken),
                        ownDb,
                        !group.cue(),
                        Figures.of(series.through(gain(ownDb)))));
            }
        }
        return new StemForecast(stems, gainDb, Figures.of(measured.mix().through(gain(gainDb))));
    }

    private static double[][] gain(double db) {
        return GainMatrix.diagonal(2, Decibels.toFactor(db)).toArray();
    }

    /**
     * The series that every forecast starts from, as mixed.
     *
     * @param stems by track or bus
     * @param mix the sum of those that are in the mix
     * @param capturePasses how many passes through hardware on buses are wanting before each stem can be rendered
     */
    public record Measured(
            StemDivision division, Map<ChannelId, LevelSeries> stems, LevelSeries mix, int capturePasses) {
        public Measured {
            stems = Map.copyOf(stems);
        }
    }

    /**
     * Measures every stem and the mix through the engine; most follow by gains from the tracks' own levels.
     *
     * @param whole the session
     */
    public static Measured measure(Session whole, StemSettings settings, SongMeasure song, Progress progress) {
        Session session = settings.tap().of(whole);
        double tailSeconds = settings.tailSeconds();
        Map<ChannelId, LevelSeries> stems = new LinkedHashMap<>();
        Plan mixed = lasting(PlanCompiler.compile(session), tailSeconds);
        LevelSeries mix = one(song, mixed, mixed.output(), progress.part(0, 0.5));
        List<StemDivision.Group> groups = settings.division().of(session);
        for (int i = 0; i < groups.size(); i++) {
            Plan plan = plan(session, groups.get(i).share(settings.treatment()), 0, tailSeconds, song.media());
            stems.put(
                    groups.get(i).channel().id(),
                    one(song, plan, plan.monitor(), progress.part(0.5 + 0.5 * i / groups.size(), 1)));
        }
        int passes = HardwareSlot.of(session).isEmpty()
                ? 0
                : CaptureRun.passes(session, settings.shares(session), song.media());
        return new Measured(settings.division(), stems, mix, passes);
    }

    /** The plan of one stem; its signal is the monitor's, which for tracks of the mix is the mix. */
    static Plan plan(Session session, StemShare share, double gainDb, double tailSeconds, Media media) {
        return lasting(share.plan(session, media, gainDb), tailSeconds);
    }

    /** A plan that goes on after the song's end. */
    static Plan lasting(Plan plan, double tailSeconds) {
        return plan.withLength(plan.lengthFrames() + Math.round(tailSeconds * plan.sampleRateHz()));
    }

    private static LevelSeries one(SongMeasure song, Plan plan, int index, Progress progress) {
        BitSet wanted = new BitSet();
        wanted.set(index);
        LevelSeries series = song.measure(plan, wanted, progress).get(index);
        if (series == null) {
            throw new IllegalStateException("index: " + index + " (expected: a measured signal)");
        }
        return series;
    }

    private static double peakDbfs(LevelSeries series) {
        double most = 0;
        for (int p = 0; p < series.planes(); p++) {
            most = Math.max(most, series.peak(p));
        }
        return Decibels.ofFactor(most);
    }
}
