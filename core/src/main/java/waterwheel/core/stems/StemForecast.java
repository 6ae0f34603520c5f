package waterwheel.core.stems;

import java.util.ArrayList;
import java.util.HashSet;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Objects;
import java.util.Set;
import waterwheel.core.captures.CaptureRun;
import waterwheel.core.captures.HardwareSlot;
import waterwheel.core.levels.SongMeasure;
import waterwheel.core.metering.Figures;
import waterwheel.core.metering.LevelSeries;
import waterwheel.core.path.GainMatrix;
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
     * @param id that of the track, bus or return that it is, or of the stem that was put together by hand
     * @param fileName its file's name without an ending, unlike all others in the render
     * @param gainDb its gain
     * @param inMix false for a click or cue, which is kept apart
     * @param mono whether its file has one side, because both are the same
     * @param figures what its file will measure, gain included
     */
    public record Stem(
            ChannelId id, String name, String fileName, double gainDb, boolean inMix, boolean mono, Figures figures) {
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
        boolean foldable = measured.settings().mono();
        double loudest = Double.NEGATIVE_INFINITY;
        List<StemGroup> groups = StemGroups.of(session, measured.settings().division());
        for (StemGroup group : groups) {
            if (!group.cue()) {
                loudest = Math.max(loudest, peakDbfs(measured.stem(group)));
            }
        }
        double gainDb = policy.gainDb(loudest, mixed);

        List<Stem> stems = new ArrayList<>();
        Set<String> taken = new HashSet<>(Set.of(FileNames.alike(StemResult.MIX)));
        for (StemGroup group : groups) {
            LevelSeries series = measured.stem(group);
            boolean mono = foldable && series.sidesAlike();
            LevelSeries written = mono ? series.through(new double[][] {{1, 0}}) : series;
            double ownDb = group.cue() ? gainDb : policy.gainDb(Figures.of(written), gainDb);
            String name = names.named(stems.size() + 1, group.name(), session.title(), session.sampleRateHz());
            stems.add(new Stem(
                    group.id(),
                    group.name(),
                    FileNames.unique(name, taken),
                    ownDb,
                    !group.cue(),
                    mono,
                    Figures.of(written.through(gain(written.planes(), ownDb)))));
        }
        return new StemForecast(stems, gainDb, Figures.of(measured.mix().through(gain(2, gainDb))));
    }

    private static double[][] gain(int planes, double db) {
        return GainMatrix.diagonal(planes, Decibels.toFactor(db)).toArray();
    }

    /**
     * The series that every forecast starts from, as mixed.
     *
     * @param stems by their ids
     * @param mix the sum of those that are in the mix
     * @param capturePasses how many passes through hardware on buses are wanting before each stem can be rendered
     */
    public record Measured(
            StemSettings settings, Map<ChannelId, LevelSeries> stems, LevelSeries mix, int capturePasses) {
        public Measured {
            stems = Map.copyOf(stems);
        }

        private LevelSeries stem(StemGroup group) {
            return Objects.requireNonNull(stems.get(group.id()), "a measured stem");
        }
    }

    /**
     * Measures every stem and the mix through the engine, all in one run; what follows by gains from the tracks' own
     * levels, and what was measured before, is not measured again.
     *
     * @param whole the session
     */
    public static Measured measure(Session whole, StemSettings settings, SongMeasure song, Progress progress) {
        Session session = settings.tap().of(whole);
        int passes = HardwareSlot.of(session).isEmpty()
                ? 0
                : CaptureRun.passes(session, settings.shares(session), song.media());
        StemPlans plans = StemPlans.of(session, settings, song.media());
        return measure(session, settings, plans, passes, song, progress);
    }

    /** @param session as it is where stems are taken */
    static Measured measure(
            Session session, StemSettings settings, StemPlans plans, int passes, SongMeasure song, Progress progress) {
        Map<Integer, LevelSeries> series = song.measureAsked(
                plans.plan(), plans.joint().wanted(), settings.fromFrame(), settings.toFrame(session), progress);
        Map<ChannelId, LevelSeries> stems = new LinkedHashMap<>();
        plans.groups().forEach(group -> stems.put(group.id(), measured(series, plans.stem(group.id()))));
        return new Measured(settings, stems, measured(series, plans.mix()), passes);
    }

    private static LevelSeries measured(Map<Integer, LevelSeries> series, int index) {
        return Objects.requireNonNull(series.get(index), "a measured signal");
    }

    private static double peakDbfs(LevelSeries series) {
        double most = 0;
        for (int p = 0; p < series.planes(); p++) {
            most = Math.max(most, series.peak(p));
        }
        return Decibels.ofFactor(most);
    }
}
