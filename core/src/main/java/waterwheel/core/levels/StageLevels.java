package waterwheel.core.levels;

import java.util.ArrayList;
import java.util.BitSet;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.TreeMap;
import java.util.WeakHashMap;
import java.util.stream.Collectors;
import waterwheel.core.engine.GainMatrix;
import waterwheel.core.engine.Plan;
import waterwheel.core.engine.SignalId;
import waterwheel.core.engine.StageGains;
import waterwheel.core.inserts.Insert;
import waterwheel.core.metering.Figures;
import waterwheel.core.metering.LevelSeries;
import waterwheel.core.routing.Audibility;
import waterwheel.core.routing.Faders;
import waterwheel.core.session.Bus;
import waterwheel.core.session.Channel;
import waterwheel.core.session.ChannelId;
import waterwheel.core.session.Session;
import waterwheel.core.session.Strip;
import waterwheel.core.session.Track;

/** Computes channels' stages from the series of a plan's signals. One thread at a time. */
final class StageLevels {
    /** Figures by measured series and the gains on it, since most stages do not change from one edit to the next. */
    private final Map<LevelSeries, Map<GainMatrix, Figures>> remembered = new WeakHashMap<>();

    /** The signals whose series the stages of all channels need. */
    static BitSet wanted(Plan plan) {
        BitSet wanted = new BitSet();
        for (int i = 0; i < plan.signals().size(); i++) {
            SignalId id = plan.signals().get(i).id();
            boolean branch = id.point() == SignalId.Point.PLACED && !id.part().isEmpty();
            wanted.set(
                    i,
                    !branch
                            && id.point() != SignalId.Point.DELAYED
                            && id.point() != SignalId.Point.KEY
                            && id.point() != SignalId.Point.MONITOR);
        }
        return wanted;
    }

    /** The levels of every channel whose series are known. */
    Map<ChannelId, ChannelLevels> of(Session session, Plan plan, Map<Integer, LevelSeries> series) {
        Set<ChannelId> sounding = Audibility.sounding(session);
        Faders faders = Faders.of(session);
        Set<ChannelId> moved = session.vcas().stream()
                .flatMap(vca -> faders.movedBy(vca).stream())
                .collect(Collectors.toSet());
        Map<ChannelId, ChannelLevels> all = new LinkedHashMap<>();
        for (Channel channel : session.channels()) {
            boolean sounds = sounding.contains(channel.id());
            of(session, faders, channel, sounds, moved.contains(channel.id()), plan, series)
                    .ifPresent(levels -> all.put(channel.id(), levels));
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

    private Optional<ChannelLevels> of(
            Session session,
            Faders faders,
            Channel channel,
            boolean sounds,
            boolean moved,
            Plan plan,
            Map<Integer, LevelSeries> series) {
        LevelSeries first = series.get(plan.first(channel.id()));
        if (first == null) {
            return Optional.empty();
        }
        Strip strip = channel.strip();
        int planes = channel.planes();
        GainMatrix entered = GainMatrix.diagonal(planes, StageGains.clips(channel));
        GainMatrix trimmed = entered.times(StageGains.trim(strip));
        LevelSeries chain = series.get(plan.chainEnd(channel.id()));
        if (chain == null) {
            return Optional.empty();
        }
        double fader = StageGains.beforeFader(channel) * StageGains.fader(faders, channel);
        GainMatrix faded = GainMatrix.diagonal(planes, fader);
        GainMatrix placed =
                GainMatrix.of(strip.placement().gains(session.panLaw(), planes)).times(fader);
        Figures placement;
        if (placed.mixes()) {
            LevelSeries mixed = series.get(plan.find(new SignalId(channel.id(), SignalId.Point.PLACED)));
            if (mixed == null) {
                return Optional.empty();
            }
            placement = figures(mixed, GainMatrix.diagonal(2, 1));
        } else {
            placement = figures(chain, placed);
        }
        List<StageLevel> stages = new ArrayList<>();
        switch (channel) {
            case Track _ -> {
                int files = plan.find(new SignalId(channel.id(), SignalId.Point.FILES));
                LevelSeries source = files < 0 ? first : series.get(files);
                if (source == null) {
                    return Optional.empty();
                }
                stages.add(new StageLevel(Stage.SOURCE, figures(source, GainMatrix.diagonal(planes, 1))));
                stages.add(new StageLevel(Stage.CLIPS, figures(first, entered)));
            }
            case Bus _ -> stages.add(new StageLevel(Stage.INPUT, figures(first, entered)));
        }
        stages.add(new StageLevel(Stage.TRIM, figures(first, trimmed)));
        for (Insert insert : strip.inserts()) {
            int index = plan.find(new SignalId(
                    channel.id(), SignalId.Point.INSERT, insert.id().value()));
            LevelSeries after = index < 0 ? null : series.get(index);
            if (after != null) {
                stages.add(new StageLevel(
                        Stage.INSERT, insert.id().value(), figures(after, GainMatrix.diagonal(planes, 1))));
            }
        }
        stages.add(new StageLevel(Stage.FADER, figures(chain, faded)));
        stages.add(new StageLevel(Stage.PLACEMENT, placement));
        stages.add(new StageLevel(Stage.OUTPUT, sounds ? placement : figures(first, GainMatrix.toStereo(planes, 0))));
        List<Figures> sides = moved && planes == 2
                ? List.of(
                        figures(chain, GainMatrix.of(new double[][] {{fader, 0}})),
                        figures(chain, GainMatrix.of(new double[][] {{0, fader}})))
                : List.of();
        return Optional.of(new ChannelLevels(channel.id(), stages, sides));
    }

    private Figures figures(LevelSeries series, GainMatrix gains) {
        Map<GainMatrix, Figures> known = remembered.computeIfAbsent(series, s -> new LinkedHashMap<>(16, 0.75f, true) {
            private static final long serialVersionUID = 1L;

            @Override
            protected boolean removeEldestEntry(Map.Entry<GainMatrix, Figures> eldest) {
                return size() > 16;
            }
        });
        return known.computeIfAbsent(gains, g -> Figures.of(series.through(g.toArray())));
    }
}
