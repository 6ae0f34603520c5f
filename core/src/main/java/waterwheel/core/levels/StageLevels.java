package waterwheel.core.levels;

import java.util.ArrayList;
import java.util.BitSet;
import java.util.LinkedHashMap;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.TreeMap;
import java.util.WeakHashMap;
import java.util.stream.Collectors;
import waterwheel.core.engine.Plan;
import waterwheel.core.engine.SignalId;
import waterwheel.core.metering.Figures;
import waterwheel.core.metering.LevelSeries;
import waterwheel.core.path.GainMatrix;
import waterwheel.core.path.Stage;
import waterwheel.core.routing.Faders;
import waterwheel.core.session.Channel;
import waterwheel.core.session.ChannelId;
import waterwheel.core.session.Session;
import waterwheel.core.work.Team;

/** Computes channels' stages from the series of a plan's signals. One thread at a time. */
final class StageLevels {
    /** How many figures of one series are remembered. */
    private static final int MOST_GAINS = 16;

    /** Figures by measured series and the gains on it, since most stages do not change from one edit to the next. */
    private final Map<LevelSeries, Map<GainMatrix, Figures>> remembered = new WeakHashMap<>();

    private final Team team;

    /** @param team computes figures that are not remembered; not closed here */
    StageLevels(Team team) {
        this.team = team;
    }

    /** The signals whose series the stages of all channels need, and those of the mix and the pairs. */
    static BitSet wanted(Plan plan) {
        BitSet wanted = new BitSet();
        plan.stages()
                .forEach(stages ->
                        stages.forEach(place -> wanted.set(place.edge().from())));
        for (int i = 0; i < plan.signals().size(); i++) {
            SignalId.Point point = plan.signals().get(i).id().point();
            if (point == SignalId.Point.OUTPUT || point == SignalId.Point.PAIR) {
                wanted.set(i);
            }
        }
        return wanted;
    }

    /** The levels of every channel whose series are known. */
    Map<ChannelId, ChannelLevels> of(Session session, Plan plan, Map<Integer, LevelSeries> series) {
        Faders faders = Faders.of(session);
        Set<ChannelId> moved = session.vcas().stream()
                .flatMap(vca -> faders.movedBy(vca).stream())
                .collect(Collectors.toSet());
        computeMissing(session, plan, series);
        Map<ChannelId, ChannelLevels> all = new LinkedHashMap<>();
        for (Channel channel : session.channels()) {
            of(channel, moved.contains(channel.id()), plan, series).ifPresent(levels -> all.put(channel.id(), levels));
        }
        return all;
    }

    /** The figures of the interface's pairs that something goes to, as far as they are known. */
    static Map<Integer, Figures> pairs(Plan plan, Map<Integer, LevelSeries> series) {
        Map<Integer, Figures> pairs = new TreeMap<>();
        for (int i = 0; i < plan.signals().size(); i++) {
            SignalId id = plan.signals().get(i).id();
            LevelSeries one = series.get(i);
            if (id.point() == SignalId.Point.PAIR && one != null) {
                pairs.put(Integer.valueOf(id.part()), Figures.of(one));
            }
        }
        return pairs;
    }

    /** A stage's figures that are not known yet. */
    private record Missing(LevelSeries series, GainMatrix gains) {}

    /** Computes the figures of all stages that are not remembered, several at a time. */
    private void computeMissing(Session session, Plan plan, Map<Integer, LevelSeries> series) {
        Set<Missing> missing = new LinkedHashSet<>();
        for (Channel channel : session.channels()) {
            for (Plan.Place place : plan.stages(channel.id())) {
                LevelSeries known = series.get(place.edge().from());
                GainMatrix gains = place.edge().gain();
                if (known != null && !remembered.getOrDefault(known, Map.of()).containsKey(gains)) {
                    missing.add(new Missing(known, gains));
                }
            }
        }
        List<Missing> list = List.copyOf(missing);
        Figures[] found = new Figures[list.size()];
        team.run(
                list.size(),
                i -> found[i] = compute(list.get(i).series(), list.get(i).gains()));
        for (int i = 0; i < found.length; i++) {
            remembered(list.get(i).series()).put(list.get(i).gains(), found[i]);
        }
    }

    private static Figures compute(LevelSeries series, GainMatrix gains) {
        return Figures.of(series.through(gains.toArray()));
    }

    private Optional<ChannelLevels> of(Channel channel, boolean moved, Plan plan, Map<Integer, LevelSeries> series) {
        List<StageLevel> stages = new ArrayList<>();
        List<Figures> sides = new ArrayList<>();
        for (Plan.Place place : plan.stages(channel.id())) {
            LevelSeries known = series.get(place.edge().from());
            if (known == null) {
                return Optional.empty();
            }
            GainMatrix gain = place.edge().gain();
            stages.add(new StageLevel(place.stage(), place.part(), figures(known, gain)));
            if (place.stage() == Stage.FADER && moved && channel.planes() == 2) {
                sides.add(figures(known, gain.row(0)));
                sides.add(figures(known, gain.row(1)));
            }
        }
        return stages.isEmpty() ? Optional.empty() : Optional.of(new ChannelLevels(channel.id(), stages, sides));
    }

    private Figures figures(LevelSeries series, GainMatrix gains) {
        return remembered(series).computeIfAbsent(gains, g -> compute(series, g));
    }

    private Map<GainMatrix, Figures> remembered(LevelSeries series) {
        return remembered.computeIfAbsent(series, s -> new LinkedHashMap<>(16, 0.75f, true) {
            private static final long serialVersionUID = 1L;

            @Override
            protected boolean removeEldestEntry(Map.Entry<GainMatrix, Figures> eldest) {
                return size() > MOST_GAINS;
            }
        });
    }
}
