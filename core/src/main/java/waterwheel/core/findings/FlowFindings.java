package waterwheel.core.findings;

import java.util.HashMap;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.OptionalDouble;
import java.util.Set;
import waterwheel.core.edit.Edit;
import waterwheel.core.edit.Edits;
import waterwheel.core.edit.FlowEdits;
import waterwheel.core.edit.GroupEdits;
import waterwheel.core.inserts.Insert;
import waterwheel.core.levels.SessionLevels;
import waterwheel.core.metering.Figures;
import waterwheel.core.processing.Processors;
import waterwheel.core.routing.Connections;
import waterwheel.core.routing.Faders;
import waterwheel.core.routing.RenderOrder;
import waterwheel.core.routing.Wiring;
import waterwheel.core.session.Bus;
import waterwheel.core.session.Channel;
import waterwheel.core.session.ChannelId;
import waterwheel.core.session.Output;
import waterwheel.core.session.Send;
import waterwheel.core.session.Session;
import waterwheel.core.session.Vca;
import waterwheel.core.units.LevelText;

/** Findings about what runs where. */
final class FlowFindings {
    /** A bus moved less than this shifts nothing that anybody hears. */
    private static final double MOVED_DB = 1;

    private static final double LOUDER_LU = 3;

    private final Session session;
    private final SessionLevels levels;
    private final FindingList found;
    private final Wiring wiring;
    private final Map<ChannelId, Double> unityPaths;

    FlowFindings(SessionLevels levels, FindingList found) {
        this.session = levels.session();
        this.levels = levels;
        this.found = found;
        wiring = Wiring.computed(session);
        unityPaths = unityPaths(session, Faders.of(session));
    }

    void judge() {
        for (Channel channel : session.channels()) {
            judgePaths(channel);
            channel.strip().inserts().forEach(insert -> judgeInsert(channel, insert));
            channel.strip().inserts().forEach(insert -> judgeResponse(channel, insert));
            if (channel instanceof Bus bus && !bus.id().equals(session.mainId())) {
                judgeBalance(bus);
            }
        }
        levels.pairs().forEach(this::judgePair);
    }

    /** A converter clips at full scale, and what it clipped is lost. */
    private void judgePair(int pair, Figures figures) {
        if (figures.headroomDb() >= 0) {
            return;
        }
        Output.ToInterface output = new Output.ToInterface(pair);
        session.channels().stream()
                .filter(channel -> channel.strip().output().equals(output))
                .findFirst()
                .ifPresent(channel -> found.add(
                        Finding.Rule.OUTPUT_CLIPS,
                        channel,
                        output.label() + " clip: what goes there peaks at "
                                + LevelText.level(figures.samplePeakDbfs(), "dBFS")
                                + ", and a converter ends at full scale.",
                        "Turn down what feeds them by " + LevelText.signed(-figures.headroomDb(), 1, false)
                                + " dB or more.",
                        OptionalDouble.of(figures.peakAtSeconds()),
                        null));
    }

    private void judgeResponse(Channel channel, Insert insert) {
        judgeLacking(channel, insert);
        insert.processor()
                .response()
                .map(id -> levels.files().get(id))
                .filter(facts -> facts.nonFiniteSamples() > 0)
                .ifPresent(facts -> found.add(
                        Finding.Rule.NOT_NUMBERS,
                        channel,
                        facts.nonFiniteSamples() + " samples in the impulse response of " + channel.name()
                                + " are no numbers; they count as silence.",
                        "Choose another impulse response, or export it again.",
                        OptionalDouble.empty(),
                        null));
    }

    private void judgeLacking(Channel channel, Insert insert) {
        boolean lacking = insert.processor().kind().responds()
                && insert.processor()
                        .response()
                        .filter(id -> !levels.complete() || levels.files().containsKey(id))
                        .isEmpty();
        if (lacking && !insert.bypassed()) {
            found.add(
                    Finding.Rule.NO_RESPONSE,
                    channel,
                    "The convolution reverb of " + channel.name() + " gives silence: "
                            + (insert.processor().response().isEmpty()
                                    ? "it has no impulse response."
                                    : "the file of its impulse response is missing."),
                    "Choose an impulse response in its panel, or take it out.",
                    OptionalDouble.empty(),
                    FlowEdits.insert(channel, insert.id(), i -> i.withBypassed(true)));
        }
    }

    private void judgePaths(Channel channel) {
        double paths = unityPaths.getOrDefault(channel.id(), 0.0);
        if (paths < 2 || channel.strip().extraOutputs().isEmpty()) {
            return;
        }
        double gain = 20 * Math.log10(paths);
        found.add(
                Finding.Rule.DOUBLE_PATH,
                channel,
                channel.name() + " reaches " + session.main().name() + " by "
                        + LevelText.signed(paths, 0, false) + " paths at unity, and is "
                        + LevelText.signed(gain, 1, false) + " dB louder there than its fader says.",
                "Take its extra outputs away, unless that is what you want.",
                OptionalDouble.empty(),
                new Edit(
                        "Extra outputs of " + channel.name(),
                        s -> s.withStrip(channel.id(), strip -> strip.withExtraOutputs(List.of()))));
    }

    /**
     * From each channel the ways to the main bus on which nothing is turned up or down or processed; counted from the
     * main bus on, because there may be as many as two to the power of the buses.
     */
    private static Map<ChannelId, Double> unityPaths(Session session, Faders faders) {
        Map<ChannelId, Double> paths = new HashMap<>();
        if (RenderOrder.of(session) instanceof RenderOrder.Ordered(List<ChannelId> order)) {
            for (ChannelId id : order.reversed()) {
                double sum = 0;
                for (ChannelId next : Connections.outputs(session.channel(id))) {
                    Channel bus = session.channel(next);
                    boolean unity = bus.strip().trimDb() == 0
                            && faders.effectiveDb(bus) == 0
                            && !faders.muted(bus)
                            && bus.strip().activeInserts().isEmpty();
                    sum += next.equals(session.mainId()) ? 1 : unity ? paths.getOrDefault(next, 0.0) : 0;
                }
                paths.put(id, sum);
            }
        }
        return paths;
    }

    private void judgeInsert(Channel channel, Insert insert) {
        levels.of(channel.id()).flatMap(known -> known.around(insert.id())).ifPresent(around -> {
            double change = around.after().integratedLufs() - around.before().integratedLufs();
            if (Double.isFinite(change) && Math.abs(change) > LOUDER_LU && insert.mix() == 1 && !isEffect(insert)) {
                found.add(
                        Finding.Rule.UNMATCHED_INSERT,
                        channel,
                        "The " + insert.processor().kind().label().toLowerCase(Locale.ROOT) + " on "
                                + channel.name() + " makes it " + LevelText.signed(Math.abs(change), 1, false) + " LU "
                                + (change > 0 ? "louder" : "softer")
                                + ", so that bypassing it compares levels rather than sounds.",
                        "Match its output gain to what goes in.",
                        OptionalDouble.empty(),
                        FlowEdits.insert(
                                channel,
                                insert.id(),
                                i -> i.withOutputDb(Math.clamp(
                                        Math.round((i.outputDb() - change) * 100) / 100.0,
                                        -Insert.GAIN_LIMIT_DB,
                                        Insert.GAIN_LIMIT_DB))));
            }
        });
    }

    /** What gives out something else than what it gets is not compared with it. */
    private static boolean isEffect(Insert insert) {
        return Processors.of(insert.processor().kind()).replaces();
    }

    /** Post-fader sends of a bus's members do not follow the bus's fader, but they follow a VCA. */
    private void judgeBalance(Bus bus) {
        double fader = bus.strip().faderDb();
        if (Math.abs(fader) < MOVED_DB || !Double.isFinite(fader)) {
            return;
        }
        Set<ChannelId> before = wiring.upstream(List.of(bus.id()));
        List<Channel> members = session.channels().stream()
                .filter(c -> c.strip().output().equals(Output.to(bus.id())))
                .toList();
        List<String> sending = members.stream()
                .filter(member -> member.strip().sends().stream()
                        .anyMatch(send -> send.connects()
                                && send.target() instanceof Send.ToBus(ChannelId to)
                                && !before.contains(to)))
                .map(Channel::name)
                .toList();
        if (sending.isEmpty()) {
            return;
        }
        List<ChannelId> ids = members.stream().map(Channel::id).toList();
        found.add(
                Finding.Rule.WET_DRY_SHIFT,
                bus,
                "The fader of " + bus.name() + " moves its members by " + LevelText.change(fader)
                        + ", but not the effects that "
                        + String.join(", ", sending) + (sending.size() == 1 ? " sends" : " send")
                        + " to: their balance has shifted.",
                "Move the members with a VCA instead: their sends follow.",
                OptionalDouble.empty(),
                new Edit("VCA for " + bus.name(), s -> {
                    Session with = GroupEdits.addVca(bus.name(), ids).apply(s);
                    Vca made = with.vcas().getLast();
                    return Edits.fader(bus, 0)
                            .apply(GroupEdits.vca(made, v -> v.withFaderDb(fader))
                                    .apply(with));
                }));
    }
}
