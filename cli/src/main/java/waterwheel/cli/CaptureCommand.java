package waterwheel.cli;

import com.fasterxml.jackson.databind.node.ArrayNode;
import com.fasterxml.jackson.databind.node.ObjectNode;
import java.util.ArrayList;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Set;
import java.util.concurrent.Callable;
import org.jspecify.annotations.Nullable;
import picocli.CommandLine.Command;
import picocli.CommandLine.Mixin;
import picocli.CommandLine.Model.CommandSpec;
import picocli.CommandLine.Option;
import picocli.CommandLine.Parameters;
import picocli.CommandLine.Spec;
import waterwheel.core.captures.CaptureRun;
import waterwheel.core.captures.Captured;
import waterwheel.core.captures.Captures;
import waterwheel.core.captures.HardwareSlot;
import waterwheel.core.captures.SlotState;
import waterwheel.core.captures.StemShare;
import waterwheel.core.engine.Media;
import waterwheel.core.errors.SessionFileException;
import waterwheel.core.json.Json;
import waterwheel.core.session.Session;
import waterwheel.core.session.StemDivision;
import waterwheel.core.stems.StemSettings;
import waterwheel.core.store.SessionFolder;
import waterwheel.core.store.SessionLock;

@Command(
        name = "capture",
        description = "Runs the song through hardware whose capture is missing or out of date, records what comes back"
                + " and keeps it with the session. Slots that are named are captured in any case.")
final class CaptureCommand implements Callable<Integer> {
    @Mixin
    private SessionOptions options = new SessionOptions();

    @Spec
    private CommandSpec spec = CommandSpec.create();

    @Parameters(index = "1..*", arity = "0..*", paramLabel = "SLOT", description = HardwareNames.DESCRIPTION)
    private List<String> names = List.of();

    @Option(
            names = "--stems",
            paramLabel = "tracks|buses|named",
            converter = DivisionOption.Words.class,
            description = "Captures what loops on buses bring back of each stem by itself instead, a pass a stem.")
    private StemDivision.@Nullable By stems;

    @Mixin
    private TreatmentOption treat = new TreatmentOption();

    @Override
    public Integer call() throws Exception {
        try (SessionLock lock = SessionLock.acquire(options.folder())) {
            SessionFolder.Loaded read = SessionFolder.load(options.folder());
            Session session = read.session();
            if (stems != null) {
                return captureStems(
                        lock,
                        read,
                        StemSettings.USUAL
                                .withDivision(session.stems().withBy(stems))
                                .withTreatment(treat.treatment)
                                .shares(session));
            }
            Set<HardwareSlot> wanting = new LinkedHashSet<>();
            if (!names.isEmpty()) {
                wanting.addAll(HardwareNames.slots(spec, session, names));
            } else {
                states(session).stream().filter(SlotState::wanting).forEach(state -> wanting.add(state.slot()));
            }
            List<List<HardwareSlot>> passes = Captures.passes(session, wanting);
            sayPasses(session, passes.size());
            Kept kept = new Kept(lock, read);
            Console.withProgress("Capturing", progress -> CaptureRun.of(session, options.folder())
                    .run(session, wanting, kept, progress));
            List<SlotState> now = states(kept.saved.session());
            tell(session, kept.all, now);
            return now.stream().anyMatch(SlotState::open) ? 1 : 0;
        }
    }

    private int captureStems(SessionLock lock, SessionFolder.Loaded read, List<StemShare> shares) throws Exception {
        Session session = read.session();
        int passes = passes(session, shares);
        sayPasses(session, passes);
        Kept kept = new Kept(lock, read);
        Console.withProgress("Capturing", progress -> CaptureRun.of(session, options.folder())
                .runStems(session, shares, kept, progress));
        tell(session, kept.all, states(kept.saved.session()));
        return passes(kept.saved.session(), shares) == 0 ? 0 : 1;
    }

    private int passes(Session session, List<StemShare> shares) {
        try (Media media = Media.open(session, options.folder())) {
            return CaptureRun.passes(session, shares, media);
        }
    }

    private void sayPasses(Session session, int passes) {
        if (passes > 0 && !options.json()) {
            Console.say("Capturing in " + CaptureRun.inWords(passes, session) + ".");
        }
    }

    /** Saves each pass by itself, so that a stop loses none. */
    private static final class Kept implements CaptureRun.Kept {
        private final SessionLock lock;
        private SessionFolder.Loaded saved;
        private final List<Captured> all = new ArrayList<>();

        Kept(SessionLock lock, SessionFolder.Loaded read) {
            this.lock = lock;
            saved = read;
        }

        @Override
        public void pass(List<Captured> captured) throws SessionFileException {
            saved = lock.save(Captured.into(saved.session(), captured), saved);
            all.addAll(captured);
        }
    }

    private List<SlotState> states(Session session) {
        try (Media media = Media.open(session, options.folder())) {
            return Captures.of(session, media);
        }
    }

    private void tell(Session session, List<Captured> captured, List<SlotState> states) {
        ObjectNode document = Json.object();
        ArrayNode list = document.putArray("captured");
        for (Captured one : captured) {
            ObjectNode node = list.addObject();
            node.put("channel", one.slot().channel().value());
            node.put("slot", one.slot().slot().value());
            one.stem().ifPresent(stem -> node.put("stem", stem.value()));
            node.put("path", one.source().path());
            node.put("clippedSamples", one.clippedSamples());
            if (!options.json()) {
                Console.say(one.slot().label(session)
                        + one.stem()
                                .flatMap(stem -> session.stems().name(session, stem))
                                .map(name -> " of " + name)
                                .orElse("")
                        + ": "
                        + one.source().path()
                        + (one.clippedSamples() == 0
                                ? "."
                                : ", " + one.clippedSamples() + " samples clipped at the input: turn the unit down."));
            }
        }
        ArrayNode open = document.putArray("open");
        for (SlotState state : states) {
            if (state.open()) {
                open.addObject()
                        .put("channel", state.slot().channel().value())
                        .put("slot", state.slot().slot().value())
                        .put("state", state.state().label());
                if (!options.json()) {
                    Console.say(
                            state.slot().label(session) + ": " + state.state().label() + ".");
                }
            }
        }
        if (options.json()) {
            Console.out().print(Json.pretty(document));
        } else if (captured.isEmpty() && open.isEmpty()) {
            Console.say("Nothing to capture: all that is heard is captured as it is.");
        }
    }
}
