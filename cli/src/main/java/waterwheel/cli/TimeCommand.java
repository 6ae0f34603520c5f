package waterwheel.cli;

import com.fasterxml.jackson.databind.node.ArrayNode;
import com.fasterxml.jackson.databind.node.ObjectNode;
import java.util.List;
import java.util.concurrent.Callable;
import picocli.CommandLine.Command;
import picocli.CommandLine.Mixin;
import picocli.CommandLine.Model.CommandSpec;
import picocli.CommandLine.Option;
import picocli.CommandLine.Parameters;
import picocli.CommandLine.Spec;
import waterwheel.core.captures.TimingRun;
import waterwheel.core.json.Json;
import waterwheel.core.outboard.LoopAnswer;
import waterwheel.core.rack.LoopTiming;
import waterwheel.core.session.Session;
import waterwheel.core.simulation.RackPort;
import waterwheel.core.store.SessionFolder;
import waterwheel.core.store.SessionLock;
import waterwheel.core.units.LevelText;

@Command(
        name = "time",
        description = "Times hardware loops: how late, how loud and with which polarity a signal comes back. Ends with"
                + " status 1 where one does not answer. Changes nothing without --apply.")
final class TimeCommand implements Callable<Integer> {
    @Mixin
    private SessionOptions options = new SessionOptions();

    @Spec
    private CommandSpec spec = CommandSpec.create();

    @Parameters(index = "1..*", arity = "0..*", paramLabel = "SLOT", description = HardwareNames.DESCRIPTION)
    private List<String> names = List.of();

    @Option(names = "--apply", description = "Write what is found to the session.")
    private boolean apply;

    @Override
    public Integer call() throws Exception {
        try (SessionLock lock = apply ? SessionLock.acquire(options.folder()) : SessionLock.none()) {
            SessionFolder.Loaded read = SessionFolder.load(options.folder());
            Session session = read.session();
            List<TimingRun.Found> found = Console.withProgress(
                    "Timing",
                    progress -> TimingRun.run(
                            session,
                            HardwareNames.slots(spec, session, names),
                            RackPort.fast(session.rack(), session.sampleRateHz()),
                            session.rack().blockFrames(),
                            progress));
            Session timed = session;
            for (TimingRun.Found one : found) {
                Session before = timed;
                timed = one.noting(before).map(edit -> edit.apply(before)).orElse(before);
            }
            if (apply && !timed.equals(session)) {
                lock.save(timed, read);
            }
            tell(session, found);
            return found.stream().allMatch(one -> one.sentence().isEmpty()) ? 0 : 1;
        }
    }

    private void tell(Session session, List<TimingRun.Found> found) {
        ObjectNode document = Json.object();
        ArrayNode loops = document.putArray("loops");
        for (TimingRun.Found one : found) {
            ObjectNode node = loops.addObject();
            node.put("channel", one.slot().channel().value());
            node.put("slot", one.slot().slot().value());
            node.put("answered", one.answer() instanceof LoopAnswer.Timed);
            if (one.answer() instanceof LoopAnswer.Timed answer) {
                add(node, answer.timing());
                if (!options.json()) {
                    Console.say(one.slot().label(session) + ": " + inWords(answer.timing()));
                }
            }
            if (!one.sentence().isEmpty()) {
                node.put("problem", one.sentence());
                if (!options.json()) {
                    Console.say(one.slot().label(session) + ": " + one.sentence());
                }
            }
        }
        if (options.json()) {
            Console.out().print(Json.pretty(document));
        } else if (found.isEmpty()) {
            Console.say("The session has no hardware slot.");
        } else if (!apply) {
            Console.say("Nothing was changed; --apply writes what was found.");
        }
    }

    private static void add(ObjectNode node, LoopTiming timing) {
        node.set("latencySamples", Json.figure(timing.latencyFrames()));
        node.put("polarityInverted", timing.inverted());
        node.set("gainDb", Json.figure(timing.gainDb()));
        node.set("noiseDbfs", Json.figure(timing.noiseDbfs()));
        node.set("humDbfs", Json.figure(timing.humDbfs()));
        node.set("confidence", Json.figure(timing.confidenceDb()));
    }

    private static String inWords(LoopTiming timing) {
        String hum = timing.humHz().isPresent()
                ? ", hum of " + Math.round(timing.humHz().getAsDouble()) + " Hz at "
                        + LevelText.level(timing.humDbfs(), "dBFS")
                : "";
        return LevelText.signed(timing.latencyFrames(), 2, false) + " samples, "
                + (timing.inverted() ? "polarity inverted" : "polarity as it was") + ", gain "
                + LevelText.change(timing.gainDb()) + ", noise " + LevelText.level(timing.noiseDbfs(), "dBFS") + hum
                + ".";
    }
}
