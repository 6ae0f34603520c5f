package waterwheel.desktop.outboard;

import java.io.IOException;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.function.UnaryOperator;
import javafx.application.Platform;
import javafx.beans.property.ReadOnlyObjectProperty;
import javafx.beans.property.ReadOnlyObjectWrapper;
import org.jspecify.annotations.Nullable;
import waterwheel.core.captures.CaptureRun;
import waterwheel.core.captures.Captures;
import waterwheel.core.captures.HardwareSlot;
import waterwheel.core.captures.SlotState;
import waterwheel.core.captures.TimingRun;
import waterwheel.core.edit.Edit;
import waterwheel.core.edit.FlowEdits;
import waterwheel.core.edit.InputEdits;
import waterwheel.core.edit.RackEdits;
import waterwheel.core.inserts.Insert;
import waterwheel.core.metering.Figures;
import waterwheel.core.path.Stage;
import waterwheel.core.processing.HardwareLoop;
import waterwheel.core.rack.Unit;
import waterwheel.core.recall.RecallPage;
import waterwheel.core.recall.RecallSheet;
import waterwheel.core.recording.FeedbackCheck;
import waterwheel.core.session.Channel;
import waterwheel.core.session.ChannelId;
import waterwheel.core.session.Listen;
import waterwheel.core.session.Session;
import waterwheel.core.session.Track;
import waterwheel.core.simulation.RackPort;
import waterwheel.desktop.frame.WorkLine;
import waterwheel.desktop.model.KeptCaptures;
import waterwheel.desktop.model.SessionModel;

/** The hardware slots of the session, which of them is looked at, and what was found when they were timed. */
final class OutboardModel {
    private final SessionModel model;
    private final WorkLine work;
    private final ReadOnlyObjectWrapper<@Nullable HardwareSlot> selected = new ReadOnlyObjectWrapper<>();
    /** What was found since the session was opened; a later question replaces an earlier answer. */
    private final ReadOnlyObjectWrapper<Map<HardwareSlot, TimingRun.Found>> found =
            new ReadOnlyObjectWrapper<>(Map.of());

    OutboardModel(SessionModel model, WorkLine work) {
        this.model = model;
        this.work = work;
        HardwareSlot.of(model.session()).stream().findFirst().ifPresent(selected::set);
    }

    Session session() {
        return model.session();
    }

    List<HardwareSlot> slots() {
        return HardwareSlot.of(session());
    }

    /** The slot that is looked at; null where there is none. */
    ReadOnlyObjectProperty<@Nullable HardwareSlot> selectedProperty() {
        return selected.getReadOnlyProperty();
    }

    /** Looks at a slot, here and in the Path. */
    void select(HardwareSlot slot) {
        selected.set(slot);
        model.select(slot.channel());
    }

    /** Looks at another where the one that was looked at is gone. */
    void follow() {
        HardwareSlot now = selected.get();
        List<HardwareSlot> all = slots();
        if (now == null || !all.contains(now)) {
            selected.set(all.isEmpty() ? null : all.getFirst());
        }
    }

    /** Looks at the selected channel's slot, where it has one and another channel's was looked at. */
    void followSelection() {
        HardwareSlot now = selected.get();
        Channel channel = model.selectedChannel();
        if (now == null || !now.channel().equals(channel.id())) {
            slots().stream()
                    .filter(slot -> slot.channel().equals(channel.id()))
                    .findFirst()
                    .ifPresent(selected::set);
        }
    }

    ReadOnlyObjectProperty<Map<HardwareSlot, TimingRun.Found>> foundProperty() {
        return found.getReadOnlyProperty();
    }

    Optional<Figures> figures(HardwareSlot slot, Stage stage) {
        return model.levels().of(slot.channel()).flatMap(channel -> channel.at(stage, slot.slot()));
    }

    /** How it stands with a slot's capture; empty while that is being found out. */
    Optional<SlotState> state(HardwareSlot slot) {
        return model.levels().hardware().stream()
                .filter(state -> state.slot().equals(slot))
                .findFirst();
    }

    // Edits

    void edit(HardwareSlot slot, UnaryOperator<Insert> change) {
        session().find(slot.channel()).ifPresent(channel -> model.edit(FlowEdits.insert(channel, slot.slot(), change)));
    }

    void patch(HardwareSlot slot, int sendPort, int returnPort) {
        model.edit(RackEdits.patch(session().channel(slot.channel()), slot.slot(), sendPort, returnPort));
    }

    void edit(Unit unit, UnaryOperator<Unit> change, String gesture) {
        model.edit(RackEdits.unit(unit, change), gesture);
    }

    void edit(Edit edit) {
        model.edit(edit);
    }

    /** Puts a unit into the rack and into a slot. */
    void add(HardwareSlot slot, Unit unit) {
        Channel channel = session().channel(slot.channel());
        model.edit(Edit.together(
                unit.name() + " on " + channel.name(),
                List.of(
                        RackEdits.rack(unit.name(), rack -> rack.withUnit(unit)),
                        RackEdits.loop(channel, slot.slot(), loop -> loop.withUnit(Optional.of(unit.id()))))));
    }

    /** Adds a hardware slot to the selected channel. */
    void addLoop() {
        Channel channel = model.selectedChannel();
        model.edit(FlowEdits.addInsert(channel, HardwareLoop.KIND));
        select(new HardwareSlot(
                channel.id(),
                session().channel(channel.id()).strip().inserts().getLast().id()));
    }

    String selectedChannelName() {
        return model.selectedChannel().name();
    }

    /** Writes the recall sheet into the session's folder, and tells what stands otherwise than in the one before. */
    void writeSheet() {
        Path file = model.folder().resolve(RecallPage.FILE);
        RecallSheet sheet = RecallSheet.of(session());
        Optional<RecallSheet> earlier = RecallPage.read(file);
        try {
            RecallPage.write(sheet, file);
        } catch (IOException e) {
            model.tell("The recall sheet cannot be written to " + file + ": " + e.getMessage()
                    + ". Free some space, or check that you may write there.");
            return;
        }
        List<String> since = earlier.map(sheet::since).orElse(List.of());
        model.tell("Recall sheet: " + file + "."
                + (earlier.isEmpty()
                        ? ""
                        : since.isEmpty()
                                ? " All stands as in the one before."
                                : " Since the one before: " + String.join("; ", since) + "."));
    }

    // Work

    /** Times slots and notes what is found. */
    void time(List<HardwareSlot> slots) {
        Session asked = session();
        model.transport().stop();
        work.start(
                slots.size() == 1 ? "Timing " + slots.getFirst().label(asked) : "Timing all loops",
                progress -> TimingRun.run(
                        asked,
                        slots,
                        RackPort.fast(asked.rack(), asked.sampleRateHz()),
                        asked.rack().blockFrames(),
                        progress),
                this::timed);
    }

    private void timed(List<TimingRun.Found> answers) {
        Map<HardwareSlot, TimingRun.Found> all = new LinkedHashMap<>(found.get());
        List<Edit> edits = new ArrayList<>();
        List<String> problems = new ArrayList<>();
        for (TimingRun.Found one : answers) {
            all.put(one.slot(), one);
            one.noting(session()).ifPresent(edits::add);
            if (!one.sentence().isEmpty()) {
                problems.add(one.sentence());
            }
        }
        if (!edits.isEmpty()) {
            model.edit(Edit.together("Timing of loops", edits));
        }
        found.set(Map.copyOf(all));
        if (!problems.isEmpty()) {
            model.tell(String.join(" ", problems));
        }
    }

    // Inputs

    /** The tracks that inputs feed. */
    List<Track> fed() {
        return session().tracks().stream()
                .filter(track -> track.input().isPresent())
                .toList();
    }

    /** Makes a track that an input feeds, looks at it, and marks it to be recorded. */
    void newTrack(int port, int planes) {
        model.edit(InputEdits.newTrack(port, planes));
        ChannelId made = session().tracks().getLast().id();
        model.recordings().mark(made, true);
        model.select(made);
    }

    /** The selected track, where an input could feed it. */
    Optional<Track> feedable() {
        return model.selectedChannel() instanceof Track track && track.tap().isEmpty()
                ? Optional.of(track)
                : Optional.empty();
    }

    void resetInputMeters() {
        model.transport().resetInputMeters();
    }

    /** Sets when a track's input is heard, and warns of what a microphone may hear of it. */
    void listen(Track track, Listen listen) {
        model.edit(InputEdits.listen(track, listen));
        if (listen != Listen.NEVER) {
            model.tell(
                    track.name() + " is heard as it comes in. If a microphone of it hears the loudspeakers, it howls:"
                            + " \u201cHowl?\u201d finds out how far it is from that.");
        }
    }

    void checkFeedback(Track track) {
        Session asked = session();
        model.transport().stop();
        work.start(
                "Asking the room",
                progress -> FeedbackCheck.run(
                        asked,
                        track,
                        RackPort.fast(asked.rack(), asked.sampleRateHz()),
                        asked.rack().blockFrames(),
                        progress),
                found -> model.tell(found.sentence()));
    }

    /** The slots whose capture is wanting. */
    Set<HardwareSlot> wanting() {
        Set<HardwareSlot> wanting = new LinkedHashSet<>();
        model.levels().hardware().stream().filter(SlotState::wanting).forEach(state -> wanting.add(state.slot()));
        return wanting;
    }

    /** What capturing would take, in words; empty where nothing is wanting. */
    String captureInWords() {
        Set<HardwareSlot> wanting = wanting();
        if (wanting.isEmpty()) {
            return "";
        }
        List<List<HardwareSlot>> passes = Captures.passes(session(), wanting);
        long count = passes.stream().mapToLong(List::size).sum();
        return count + (count == 1 ? " slot" : " slots") + " in " + CaptureRun.inWords(passes.size(), session());
    }

    /** Captures slots; each pass is kept as soon as it is done. */
    void capture(Set<HardwareSlot> slots) {
        Session asked = session();
        model.transport().stop();
        work.start(
                "Capturing",
                progress -> CaptureRun.of(asked, model.folder())
                        .run(
                                asked,
                                slots,
                                captured -> Platform.runLater(() -> KeptCaptures.keep(model, captured)),
                                progress),
                session -> {});
    }
}
