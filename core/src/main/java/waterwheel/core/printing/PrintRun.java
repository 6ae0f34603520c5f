package waterwheel.core.printing;

import java.nio.file.Path;
import java.util.ArrayList;
import java.util.HashSet;
import java.util.List;
import java.util.Set;
import java.util.stream.IntStream;
import waterwheel.core.audiofile.RecordedFile;
import waterwheel.core.audiofile.SampleEncoding;
import waterwheel.core.captures.Captures;
import waterwheel.core.captures.SlotState;
import waterwheel.core.edit.Edits;
import waterwheel.core.engine.Media;
import waterwheel.core.engine.Plan;
import waterwheel.core.engine.PlanCompiler;
import waterwheel.core.engine.Signal;
import waterwheel.core.engine.SignalFiles;
import waterwheel.core.engine.SignalId;
import waterwheel.core.errors.RenderException;
import waterwheel.core.errors.WaterwheelException;
import waterwheel.core.freezing.FrozenPoint;
import waterwheel.core.path.Stage;
import waterwheel.core.routing.Wiring;
import waterwheel.core.session.ChannelId;
import waterwheel.core.session.Session;
import waterwheel.core.sources.SourceId;
import waterwheel.core.units.FileStem;
import waterwheel.core.work.Leftovers;
import waterwheel.core.work.Progress;
import waterwheel.core.work.Team;

/** Renders channels to files of their own, all in one run of the song. A print is never replaced. */
public final class PrintRun {
    /** Where prints lie in a session's folder. */
    public static final String FOLDER = "prints";

    private PrintRun() {}

    /**
     * Renders the prints.
     *
     * @param encoding FLOAT_32, or PCM_24, which is dithered
     * @return what {@link Printed#into} puts into a session; nothing of the session is changed
     * @throws WaterwheelException if it is the main bus, if hardware on the way is not captured, if a print would clip, or
     *     if a file cannot be written; no file is left then
     * @throws java.util.concurrent.CancellationException if the progress says stop; likewise
     */
    public static List<Printed> run(
            Session session, Path folder, List<PrintOrder> orders, SampleEncoding encoding, Progress progress)
            throws WaterwheelException {
        refuseMain(session, orders);
        Path into = folder.resolve(FOLDER);
        RecordedFile.makeFolder(into);
        Leftovers.sweep(into);
        try (Media media = Media.open(session, folder);
                Team team = Team.ofAllProcessors()) {
            // A print is of what is heard, whatever one listens to alone for the moment.
            Plan plain = PlanCompiler.compile(Edits.clearSolos().apply(session));
            refuseOpenHardware(session, plain, media, orders);
            Plan taps = plain;
            List<SignalFiles.Target> targets = new ArrayList<>();
            Set<Path> taken = new HashSet<>();
            for (PrintOrder order : orders) {
                SignalId id = new SignalId(order.channel(), SignalId.Point.PRINTED, "" + targets.size());
                targets.add(new SignalFiles.Target(taps.signals().size(), free(into, order, taken)));
                taps = taps.withTap(id, edge(plain, session, order));
            }
            Plan plan = taps;
            List<Long> clipped = SignalFiles.write(plan, media, team, targets, encoding, progress);
            refuseClipped(session, orders, clipped);
            Set<SourceId> known = session.sourceIds();
            List<SourceId> ids = targets.stream()
                    .map(target -> SourceId.free("print-" + FileStem.of(target.file()), known))
                    .toList();
            List<Integer> each = IntStream.range(0, targets.size()).boxed().toList();
            List<Printed> all = team.map(each, i -> {
                Path file = targets.get(i).file();
                int planes = plan.signals().get(targets.get(i).signal()).planes();
                return new Printed(
                        orders.get(i),
                        RecordedFile.source(
                                ids.get(i), FOLDER, file, plan.lengthFrames(), planes, plan.sampleRateHz(), encoding));
            });
            progress.at(1);
            return all;
        }
    }

    private static Path free(Path into, PrintOrder order, Set<Path> taken) throws WaterwheelException {
        Path file = RecordedFile.free(into, order.channel().value(), taken);
        taken.add(file);
        return file;
    }

    private static Signal.Edge edge(Plan plan, Session session, PrintOrder order) {
        Stage stage =
                switch (order.upto()) {
                    case SLOT -> Stage.TRIM;
                    case FADER -> Stage.FADER;
                    case PLACEMENT -> Stage.PLACEMENT;
                    case MUTE -> Stage.OUTPUT;
                };
        return order.upto() == Upto.SLOT
                ? new FrozenPoint(session.channel(order.channel()), order.through()).edge(plan)
                : plan.stage(order.channel(), stage, "").orElseThrow().edge();
    }

    private static void refuseMain(Session session, List<PrintOrder> orders) throws RenderException {
        if (orders.stream().anyMatch(order -> order.channel().equals(session.mainId()))) {
            throw new RenderException(
                    "'" + session.main().name() + "' is the mix, and no track can stand in for it.",
                    "Render the mix instead.");
        }
    }

    private static void refuseOpenHardware(Session session, Plan plan, Media media, List<PrintOrder> orders)
            throws RenderException {
        Set<ChannelId> before = Wiring.heard(session)
                .upstream(orders.stream().map(PrintOrder::channel).toList());
        List<String> open = Captures.of(session, plan, media).stream()
                .filter(state -> before.contains(state.slot().channel()) && state.open())
                .map(SlotState::slot)
                .map(slot -> slot.label(session))
                .toList();
        if (!open.isEmpty()) {
            throw new RenderException(
                    "The print goes through hardware that is not captured as it is now: " + String.join(", ", open)
                            + ".",
                    "Capture it first, or bypass it.");
        }
    }

    private static void refuseClipped(Session session, List<PrintOrder> orders, List<Long> clipped)
            throws RenderException {
        List<String> names = new ArrayList<>();
        for (int i = 0; i < clipped.size(); i++) {
            if (clipped.get(i) > 0) {
                names.add(session.channel(orders.get(i).channel()).name() + " (" + clipped.get(i) + " samples)");
            }
        }
        if (!names.isEmpty()) {
            throw new RenderException(
                    "At 24 bits this would clip: " + String.join(", ", names) + ". Nothing was printed.",
                    "Print at 32-bit float, or turn it down before.");
        }
    }
}
