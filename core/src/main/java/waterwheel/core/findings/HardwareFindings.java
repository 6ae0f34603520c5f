package waterwheel.core.findings;

import java.util.List;
import java.util.Optional;
import java.util.OptionalDouble;
import java.util.function.UnaryOperator;
import java.util.stream.Collectors;
import waterwheel.core.captures.HardwareSlot;
import waterwheel.core.captures.PortUsers;
import waterwheel.core.captures.SlotState;
import waterwheel.core.edit.Edit;
import waterwheel.core.edit.FlowEdits;
import waterwheel.core.edit.RackEdits;
import waterwheel.core.inserts.Insert;
import waterwheel.core.levels.SessionLevels;
import waterwheel.core.metering.Figures;
import waterwheel.core.path.Stage;
import waterwheel.core.processing.HardwareLoop;
import waterwheel.core.rack.Capture;
import waterwheel.core.rack.Driver;
import waterwheel.core.rack.Loop;
import waterwheel.core.rack.LoopTiming;
import waterwheel.core.rack.Port;
import waterwheel.core.rack.PortSide;
import waterwheel.core.rack.Reamplifier;
import waterwheel.core.rack.Unit;
import waterwheel.core.session.Channel;
import waterwheel.core.session.Session;
import waterwheel.core.session.Track;
import waterwheel.core.simulation.SimulatedInterface;
import waterwheel.core.units.LevelText;

/** Findings about what leaves the computer and comes back. */
final class HardwareFindings {
    /** Further from what a unit expects than this, it is too hot or too weak for it. */
    private static final double LEVEL_DB = 8;
    /** A return this near to full scale was clipped by its converter. */
    private static final double FULL_SCALE_DBFS = -0.000_01;
    /** Less than this no mix of dry and processed notices. */
    private static final double FRACTION_FRAMES = 0.02;

    private final Session session;
    private final SessionLevels levels;
    private final FindingList found;

    HardwareFindings(SessionLevels levels, FindingList found) {
        this.session = levels.session();
        this.levels = levels;
        this.found = found;
    }

    void judge() {
        List<HardwareSlot> slots = HardwareSlot.of(session);
        for (HardwareSlot slot : slots) {
            Insert insert = slot.insert(session);
            if (!insert.bypassed()) {
                judgeTiming(slot, insert);
                judgeLevels(slot, insert);
                judgeNoise(slot, insert);
            }
        }
        levels.hardware().forEach(this::judgeCapture);
        judgePorts();
    }

    private void add(
            Finding.Rule rule,
            HardwareSlot slot,
            String sentence,
            String advice,
            OptionalDouble when,
            Optional<Edit> edit) {
        found.add(rule, session.channel(slot.channel()), sentence, advice, when, edit.orElse(null));
    }

    private void judgeCapture(SlotState state) {
        HardwareSlot slot = state.slot();
        String name = slot.label(session);
        switch (state.state()) {
            case UNUSED, FRESH -> {}
            case UNPATCHED ->
                add(
                        Finding.Rule.NOTHING_COMES_BACK,
                        slot,
                        name + " has no ports: nothing passes through it.",
                        "Choose an output and an input for it, or bypass it.",
                        OptionalDouble.empty(),
                        Optional.of(bypass(slot)));
            case MISSING, LOST ->
                add(
                        Finding.Rule.NOTHING_COMES_BACK,
                        slot,
                        name
                                + (state.state() == SlotState.State.LOST
                                        ? " has lost the file of its capture"
                                        : " was never captured")
                                + ": without the unit nothing passes through it, and nothing is rendered.",
                        "Capture it, or bypass it.",
                        OptionalDouble.empty(),
                        Optional.of(bypass(slot)));
            case STALE ->
                add(
                        Finding.Rule.CAPTURE_OUT_OF_DATE,
                        slot,
                        name + " was captured when something else was sent" + difference(slot)
                                + ": what is heard of it is not what would come back now.",
                        "Capture it again.",
                        OptionalDouble.empty(),
                        Optional.empty());
        }
    }

    /** By how much what is sent is louder than it was. */
    private String difference(HardwareSlot slot) {
        Optional<Capture> capture = slot.insert(session).processor().loop().capture();
        Optional<Figures> now = figures(slot, Stage.SENT);
        if (capture.isEmpty() || now.isEmpty()) {
            return "";
        }
        double change = now.get().averageDbfs() - capture.get().sentAverageDbfs();
        return Double.isFinite(change) && Math.abs(change) >= 0.05
                ? " (" + LevelText.change(change) + " since)"
                : " (as loud as now)";
    }

    private Edit bypass(HardwareSlot slot) {
        return edit(slot, insert -> insert.withBypassed(true));
    }

    private Edit edit(HardwareSlot slot, UnaryOperator<Insert> change) {
        return FlowEdits.insert(session.channel(slot.channel()), slot.slot(), change);
    }

    private Optional<Figures> figures(HardwareSlot slot, Stage stage) {
        return levels.of(slot.channel()).flatMap(channel -> channel.at(stage, slot.slot()));
    }

    private void judgeTiming(HardwareSlot slot, Insert insert) {
        Loop loop = insert.processor().loop();
        String name = slot.label(session);
        if (loop.patched() && loop.timing().isEmpty()) {
            add(
                    Finding.Rule.LOOP_NOT_TIMED,
                    slot,
                    name + " is not timed: what comes back is late by an amount that nobody knows.",
                    "Time it in Outboard, before it is captured.",
                    OptionalDouble.empty(),
                    Optional.empty());
        }
        loop.timing().ifPresent(timing -> judgeTiming(slot, insert, timing));
    }

    private void judgeTiming(HardwareSlot slot, Insert insert, LoopTiming timing) {
        String name = slot.label(session);
        // Which device the system or a server stands for is known only once it is open.
        String device = session.rack().driver() == Driver.SIMULATED ? SimulatedInterface.NAME : timing.device();
        if (!timing.holds(session.sampleRateHz(), session.rack().blockFrames(), device)) {
            add(
                    Finding.Rule.LOOP_NOT_TIMED,
                    slot,
                    name + " was timed on " + timing.device() + " at " + timing.sampleRateHz() + " Hz in blocks of "
                            + timing.blockFrames() + ", and the session runs at " + session.sampleRateHz()
                            + " Hz in blocks of " + session.rack().blockFrames()
                            + ": it comes back at another time now.",
                    "Time it again in Outboard.",
                    OptionalDouble.empty(),
                    Optional.empty());
        }
        if (timing.inverted() == (HardwareLoop.sign(insert.processor()) > 0)) {
            add(
                    Finding.Rule.LOOP_INVERTED,
                    slot,
                    timing.inverted()
                            ? name
                                    + " comes back with inverted polarity: mixed with other microphones it takes away"
                                    + " what it should add."
                            : name + " is turned over although it comes back with its polarity.",
                    "Set its polarity in its panel.",
                    OptionalDouble.empty(),
                    Optional.of(edit(
                            slot, i -> i.withProcessor(i.processor().with("polarity", timing.inverted() ? 1 : 0)))));
        }
        double late = HardwareLoop.lateFrames(insert.processor());
        double rest = Math.abs(late - Math.rint(late));
        boolean mixed = insert.mix() > 0 && insert.mix() < 1;
        if (mixed && rest > FRACTION_FRAMES && insert.processor().choice("alignment") == 0) {
            add(
                    Finding.Rule.LOOP_FRACTION,
                    slot,
                    name + " is mixed with what it was sent, and comes back "
                            + LevelText.signed(rest, 2, false)
                            + " of a sample beside it: the highest frequencies are weakened.",
                    "Bring it in time to its fraction.",
                    OptionalDouble.empty(),
                    Optional.of(edit(slot, i -> i.withProcessor(i.processor().with("alignment", 1)))));
        }
    }

    private void judgeLevels(HardwareSlot slot, Insert insert) {
        String name = slot.label(session);
        Loop loop = insert.processor().loop();
        figures(slot, Stage.SENT).ifPresent(sent -> {
            if (!loop.patched()) {
                return;
            }
            if (sent.headroomDb() < 0) {
                add(
                        Finding.Rule.SEND_CLIPS,
                        slot,
                        name + " is sent " + LevelText.level(sent.samplePeakDbfs(), "dBFS")
                                + " at its peak, and the converter of "
                                + session.rack()
                                        .port(PortSide.OUTPUT, loop.sendPort())
                                        .label()
                                + " ends at full scale.",
                        "Turn the send gain down by " + LevelText.signed(-sent.headroomDb(), 1, false) + " dB or more.",
                        OptionalDouble.of(sent.peakAtSeconds()),
                        Optional.of(sendBy(slot, sent.headroomDb() - 1)));
            } else {
                judgeExpectation(slot, loop, sent);
            }
        });
        figures(slot, Stage.RETURNED)
                .filter(back -> back.samplePeakDbfs() >= FULL_SCALE_DBFS)
                .ifPresent(back -> add(
                        Finding.Rule.RETURN_CLIPS,
                        slot,
                        "What came back from " + name + " clipped at "
                                + session.rack()
                                        .port(PortSide.INPUT, Math.max(1, loop.returnPort()))
                                        .label() + ".",
                        "Turn the unit's output down and capture it again.",
                        OptionalDouble.of(back.peakAtSeconds()),
                        Optional.empty()));
    }

    private Edit sendBy(HardwareSlot slot, double db) {
        return edit(slot, i -> i.withInputDb(Insert.INPUT.limited(Math.floor((i.inputDb() + db) * 10) / 10)));
    }

    private void judgeExpectation(HardwareSlot slot, Loop loop, Figures sent) {
        Unit unit = loop.unit().flatMap(session.rack()::unit).orElse(null);
        if (unit == null || loop.sendPort() == 0 || !Double.isFinite(sent.averageDbfs())) {
            return;
        }
        Port port = session.rack().port(PortSide.OUTPUT, loop.sendPort());
        double arrives = sent.averageDbfs() + port.fullScaleDbu() - unit.padDb();
        double over = arrives - unit.expects().dbu();
        if (Math.abs(over) <= LEVEL_DB) {
            return;
        }
        add(
                Finding.Rule.UNIT_LEVEL,
                slot,
                slot.label(session) + " gets " + LevelText.level(arrives, "dBu") + " on average, "
                        + LevelText.signed(Math.abs(over), 1, false) + " dB " + (over > 0 ? "more" : "less")
                        + " than it is made for (" + unit.expects().label() + ").",
                "Change the send gain by " + LevelText.change(-over)
                        + (over > 0 && unit.reamplifier().isEmpty() ? ", or put a re-amplifier before it." : "."),
                OptionalDouble.empty(),
                Optional.of(sendBy(slot, -over)));
    }

    private void judgeNoise(HardwareSlot slot, Insert insert) {
        Loop loop = insert.processor().loop();
        LoopTiming timing = loop.timing().orElse(null);
        if (timing == null) {
            return;
        }
        double floor = timing.noiseDbfs() + insert.outputDb();
        double threshold = session.staging().noiseFloorDbfs();
        if (floor <= threshold) {
            return;
        }
        Optional<Unit> liftable = loop.unit().flatMap(session.rack()::unit).filter(unit -> unit.reamplifier()
                .filter(box -> !box.groundLifted())
                .isPresent());
        boolean hums = timing.humHz().isPresent();
        String hum = hums
                ? " and hums at " + Math.round(timing.humHz().orElse(0)) + " Hz ("
                        + LevelText.level(timing.humDbfs(), "dBFS") + ")"
                : "";
        Optional<Edit> lift = liftable.filter(any -> hums)
                .map(unit -> RackEdits.unit(
                        unit,
                        u -> u.withReamplifier(
                                u.reamplifier().map(box -> new Reamplifier(box.padDb(), true, box.ohm())))));
        add(
                Finding.Rule.LOOP_NOISE,
                slot,
                slot.label(session) + " brings a noise floor of " + LevelText.level(floor, "dBFS") + hum
                        + ", above the " + LevelText.level(threshold, "dBFS") + " of this session.",
                lift.isPresent()
                        ? "Lift the ground of its re-amplifier, time it again, and capture it again."
                        : "Send it more and turn its return down by as much, or look at its cables.",
                OptionalDouble.empty(),
                lift);
    }

    /** What several send to one port is summed there, and what several take from one is one signal. */
    private void judgePorts() {
        PortUsers users = PortUsers.of(session);
        for (Port port : users.used()) {
            List<PortUsers.User> who = users.rivals(port.side(), port.number());
            Optional<HardwareSlot> slot = who.stream()
                    .filter(PortUsers.User.Slot.class::isInstance)
                    .map(user -> ((PortUsers.User.Slot) user).slot())
                    .findFirst();
            if (who.size() > 1 && slot.isPresent()) {
                add(
                        Finding.Rule.PORT_TWICE,
                        slot.get(),
                        port.label() + " is used by "
                                + who.stream().map(this::inWords).collect(Collectors.joining(" and by "))
                                + (port.side() == PortSide.OUTPUT
                                        ? ": what one sends there, the other gets too."
                                        : ": both hear the same."),
                        "Choose another port for one of them.",
                        OptionalDouble.empty(),
                        Optional.empty());
            }
        }
    }

    private String inWords(PortUsers.User user) {
        return switch (user) {
            case PortUsers.User.Slot(HardwareSlot slot) -> slot.label(session);
            case PortUsers.User.Pair(Channel channel) -> "the pair that " + channel.name() + " goes to";
            case PortUsers.User.Fed(Track track) -> track.name();
            case PortUsers.User.Monitor() -> "the monitor";
        };
    }
}
