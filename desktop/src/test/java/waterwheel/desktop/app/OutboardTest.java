package waterwheel.desktop.app;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.within;

import java.nio.file.Files;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import java.util.Set;
import java.util.stream.Collectors;
import javafx.geometry.Bounds;
import javafx.scene.Node;
import javafx.scene.control.Button;
import javafx.scene.control.ChoiceBox;
import javafx.scene.control.CustomMenuItem;
import javafx.scene.control.Labeled;
import javafx.scene.control.MenuButton;
import javafx.scene.control.TextField;
import javafx.scene.control.ToggleButton;
import javafx.scene.input.KeyCode;
import javafx.scene.layout.VBox;
import javafx.scene.shape.CubicCurve;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.DisplayNameGeneration;
import org.junit.jupiter.api.DisplayNameGenerator;
import org.junit.jupiter.api.Test;
import waterwheel.core.captures.HardwareSlot;
import waterwheel.core.captures.SlotState;
import waterwheel.core.edit.Edit;
import waterwheel.core.findings.Finding;
import waterwheel.core.inserts.Insert;
import waterwheel.core.inserts.SlotId;
import waterwheel.core.metering.Figures;
import waterwheel.core.processing.HardwareLoop;
import waterwheel.core.rack.Cable;
import waterwheel.core.rack.Driver;
import waterwheel.core.rack.Knob;
import waterwheel.core.rack.Loop;
import waterwheel.core.rack.PortSide;
import waterwheel.core.rack.Rack;
import waterwheel.core.rack.Unit;
import waterwheel.core.recall.RecallPage;
import waterwheel.core.session.Bus;
import waterwheel.core.session.Channel;
import waterwheel.core.session.ChannelId;
import waterwheel.core.session.Clip;
import waterwheel.core.session.Output;
import waterwheel.core.session.Session;
import waterwheel.core.session.Strip;
import waterwheel.core.session.Track;
import waterwheel.core.simulation.SimulatedInterface;
import waterwheel.desktop.frame.Step;

/** The way from a unit that is put into the rack to a mix that needs it no more. */
@DisplayNameGeneration(DisplayNameGenerator.ReplaceUnderscores.class)
class OutboardTest extends DrivenApplication {
    private static final ChannelId WHISTLE = new ChannelId("low-whistle");
    private static final ChannelId BASS = new ChannelId("double-bass-di");

    @BeforeEach
    void show() {
        robot.interact(() -> desk().window().show(Step.OUTBOARD));
    }

    private Set<Finding.Rule> rules() {
        return model().findingsProperty().get().stream()
                .filter(finding -> Step.of(finding) == Step.OUTBOARD)
                .map(Finding::rule)
                .collect(Collectors.toSet());
    }

    private void press(String button) {
        robot.interact(() -> button(button).fire());
    }

    @SuppressWarnings("unchecked") // the boxes of ports hold their numbers
    private void port(String name, int number) {
        robot.interact(() -> ((ChoiceBox<Integer>) shown(ChoiceBox.class, box -> name.equals(box.getAccessibleText())))
                .setValue(number));
    }

    private Insert insert(ChannelId channel) {
        return model().session().channel(channel).strip().inserts().getLast();
    }

    private Loop loop(ChannelId channel) {
        return insert(channel).processor().loop();
    }

    private Node loopRow(String channel) {
        return seen(".loop-row", channel);
    }

    @Test
    void the_demo_is_mended_as_its_findings_say_captured_again_and_silent_then() throws Exception {
        assertThat(rules())
                .containsExactlyInAnyOrder(
                        Finding.Rule.PORT_TWICE, Finding.Rule.UNIT_LEVEL, Finding.Rule.LOOP_NOT_TIMED);
        assertThat(model().levels().hardware()).hasSize(3).noneMatch(SlotState::open);
        Edit gain = model().findingsProperty().get().stream()
                .filter(finding -> finding.rule() == Finding.Rule.UNIT_LEVEL)
                .findFirst()
                .flatMap(Finding::remedy)
                .orElseThrow();
        robot.interact(() -> model().edit(gain));
        port("Monitor on", 1);
        press("Time all");
        until(() -> HardwareSlot.of(model().session()).stream()
                .allMatch(slot -> slot.insert(model().session())
                                .processor()
                                .loop()
                                .timing()
                                .orElseThrow()
                                .blockFrames()
                        == 256));
        awaitLevels();
        assertThat(rules()).containsExactly(Finding.Rule.CAPTURE_OUT_OF_DATE);
        until(() -> texts().anyMatch(t -> t.contains("1 slot in 1 pass")));
        press("Capture what is missing");
        until(() -> model().levels().complete()
                && model().levels().hardware().stream().noneMatch(SlotState::open));
        assertThat(rules()).isEmpty();
    }

    @Test
    void a_unit_is_put_on_a_track_plugged_timed_captured_and_the_mix_is_the_same_with_the_interface_away()
            throws Exception {
        robot.interact(() -> model().select(WHISTLE));
        press("Add loop to Low whistle");
        assertThat(insert(WHISTLE).processor().kind().loops()).isTrue();
        choose("Unit", "New: Headrace equaliser (simulated)");
        port("Output", 6);
        port("Input", 6);
        assertThat(loop(WHISTLE).sendPort()).isEqualTo(6);
        press("Time");
        until(() -> texts().anyMatch(t -> t.startsWith("Nothing comes back from Input 6: is the unit on")));
        assertThat(loop(WHISTLE).timing()).isEmpty();
        port("Plugged into output", 6);
        press("Time");
        until(() -> loop(WHISTLE).timing().isPresent());
        assertThat(loop(WHISTLE).timing().orElseThrow().inverted()).isTrue();
        assertThat(loop(WHISTLE).timing().orElseThrow().latencyFrames()).isCloseTo(320.6, within(1.0));
        until(() -> texts().anyMatch(t -> t.contains("polarity inverted, gain")));
        robot.interact(this::insertPolarity);
        press("Capture");
        until(() -> loop(WHISTLE).capture().isPresent());
        awaitLevels();
        Figures mix = model().levels().main().orElseThrow();
        robot.interact(() -> model().edit(new Edit(
                "Away", s -> s.withRack(s.rack().withDriver(Driver.SYSTEM).withCables(List.of())))));
        awaitLevels();
        assertThat(model().levels().main().orElseThrow()).isEqualTo(mix);
        assertThat(model().levels().hardware())
                .filteredOn(state -> state.slot().channel().equals(WHISTLE))
                .singleElement()
                .satisfies(state -> assertThat(state.state()).isEqualTo(SlotState.State.FRESH));
        // One step back at a time, to the session without the loop.
        robot.interact(() -> {
            while (model().historyProperty().get().undoName().isPresent()) {
                model().undo();
            }
        });
        assertThat(model().session().channel(WHISTLE).strip().inserts()).isEmpty();
    }

    @SuppressWarnings("unchecked") // the box of a choice holds its words
    private void insertPolarity() {
        ((ChoiceBox<String>) shown(ChoiceBox.class, box -> "Polarity".equals(box.getAccessibleText())))
                .getSelectionModel()
                .select("inverted");
    }

    @Test
    void every_port_is_shown_with_its_user_and_every_loop_with_its_cables() throws Exception {
        awaitLevels();
        robot.interact(() -> model().select(BASS));
        List<Node> sockets = seen(".socket");
        assertThat(sockets).hasSize(2 * SimulatedInterface.PORTS);
        assertThat(sockets.stream().map(Node::getAccessibleText))
                .contains("Output 5: Double bass DI", "Output 4: Double bass mic, monitor", "Input 4: free");
        assertThat(seen(".loop-row")).hasSize(3);
        // Two cables for each mono loop and four for the stereo one, each from an edge to an edge.
        List<Node> cables =
                List.copyOf(robot.from(desk().window()).lookup(".loop-link").queryAll());
        assertThat(cables).hasSize(8).allSatisfy(node -> {
            CubicCurve curve = (CubicCurve) node;
            assertThat(curve.getEndX()).isGreaterThan(curve.getStartX());
        });
        assertThat(loopRow("Double bass DI").getAccessibleText())
                .contains("through Grindstone drive pedal", "samples", "captured");
    }

    @Test
    void a_port_is_named_by_keyboard() {
        Node socket = seen(".socket", "Output 6");
        robot.interact(socket::requestFocus);
        robot.push(KeyCode.ENTER);
        robot.write("Old desk");
        robot.push(KeyCode.ENTER);
        assertThat(model().session().rack().port(PortSide.OUTPUT, 6).name()).isEqualTo("Old desk");
        assertThat(seen(".socket", "Output 6 (Old desk): free").isVisible()).isTrue();
        robot.interact(() -> model().undo());
        assertThat(model().session().rack().ports()).isEmpty();
    }

    @Test
    void a_loop_is_chosen_by_keyboard_here_and_in_the_Path() {
        Node row = loopRow("Double bass DI");
        robot.interact(row::requestFocus);
        robot.push(KeyCode.ENTER);
        assertThat(model().selectedChannel().id()).isEqualTo(BASS);
        assertThat(texts()).contains("Double bass DI \u203a Grindstone drive pedal");
    }

    @Test
    void nothing_in_the_view_is_cut_off_at_1280_by_800_with_eight_loops() {
        robot.interact(() -> {
            for (String track : List.of("lead-voice", "fiddle-1", "fiddle-2", "low-whistle", "harmonium")) {
                model().select(new ChannelId(track));
                button("Add loop to " + model().selectedChannel().name()).fire();
            }
        });
        assertThat(seen(".loop-row")).hasSize(8);
        Bounds view = desk().window()
                .lookup(".outboard")
                .localToScene(desk().window().lookup(".outboard").getBoundsInLocal());
        for (Node row : seen(".loop-row")) {
            Bounds bounds = row.localToScene(row.getBoundsInLocal());
            assertThat(bounds.getMinX()).isGreaterThan(view.getMinX());
            assertThat(bounds.getMaxX()).isLessThan(view.getMaxX());
            assertThat(row.lookupAll(".loop-channel"))
                    .allSatisfy(name -> assertThat(((Labeled) name).getText()).isNotBlank());
        }
    }

    @Test
    void the_recall_sheet_is_written_and_says_what_was_turned_since() throws Exception {
        Files.deleteIfExists(folder.resolve(RecallPage.FILE));
        press("Recall sheet");
        assertThat(RecallPage.read(folder.resolve(RecallPage.FILE))
                        .orElseThrow()
                        .units())
                .hasSize(3);
        robot.interact(() -> model().edit(new Edit(
                "Send",
                s -> s.withStrip(
                        BASS,
                        strip -> strip.withInserts(strip.inserts().stream()
                                .map(i -> i.processor().kind().loops() ? i.withInputDb(-20) : i)
                                .toList())))));
        press("Recall sheet");
        assertThat(texts()).anyMatch(t -> t.contains("Grindstone drive pedal, Send gain: \u221220.0 dB (was 0.0 dB)"));
        Files.deleteIfExists(folder.resolve(RecallPage.FILE));
    }

    private TextField field(String name) {
        return shown(TextField.class, f -> String.valueOf(f.getAccessibleText()).startsWith(name));
    }

    private void type(String field, String text) {
        TextField into = field(field);
        robot.interact(into::requestFocus);
        robot.interact(() -> into.setText(text));
        robot.push(KeyCode.ENTER);
    }

    private Unit unit() {
        return model().session().rack().unit(loop(WHISTLE).unit().orElseThrow()).orElseThrow();
    }

    @Test
    void a_unit_of_ones_own_is_named_noted_given_knobs_and_taken_away_again() {
        robot.interact(() -> model().select(WHISTLE));
        press("Add loop to Low whistle");
        choose("Unit", "New: a unit of your own");
        type("Name of the unit", "Old compressor");
        type("Notes of the unit", "left of the pair");
        assertThat(unit().name()).isEqualTo("Old compressor");
        assertThat(unit().notes()).isEqualTo("left of the pair");
        MenuButton knobs = shown(MenuButton.class, menu -> "Add knob".equals(menu.getAccessibleText()));
        robot.interact(knobs::show);
        VBox form = (VBox) ((CustomMenuItem) knobs.getItems().getFirst()).getContent();
        List<TextField> fields = form.lookupAll(".text-field").stream()
                .map(TextField.class::cast)
                .toList();
        Button add = (Button) form.lookup(".button");
        robot.interact(() -> {
            fields.get(0).setText("Attack");
            fields.get(1).setText("10");
            fields.get(2).setText("0.1");
            fields.get(3).setText("ms");
            add.fire();
        });
        assertThat(unit().knobs()).isEmpty();
        assertThat(form.lookupAll(".label"))
                .anyMatch(label ->
                        ((Labeled) label).getText().equals("Its scale needs two numbers, the smaller one first."));
        robot.interact(() -> {
            fields.get(1).setText("0.1");
            fields.get(2).setText("10");
            add.fire();
        });
        assertThat(unit().knobs()).containsExactly(new Knob("Attack", 0.1, 10, "ms", 0.1));
        press("Remove unit");
        assertThat(loop(WHISTLE).unit()).isEmpty();
        assertThat(model().session().rack().units())
                .noneMatch(unit -> unit.name().equals("Old compressor"));
        robot.interact(() -> model().undo());
        assertThat(unit().knobs()).hasSize(1);
    }

    @Test
    void an_offset_is_typed_in_samples_or_in_milliseconds() {
        robot.interact(() -> model().select(BASS));
        type("Offset to the measured time", "1.5 ms");
        assertThat(insert(BASS).processor().value("offsetFrames")).isEqualTo(72);
        type("Offset to the measured time", "-0.25");
        assertThat(insert(BASS).processor().value("offsetFrames")).isEqualTo(-0.25);
        type("Offset to the measured time", "3.01 samples");
        assertThat(insert(BASS).processor().value("offsetFrames")).isEqualTo(3.01);
    }

    @Test
    void another_block_opens_the_interface_anew_and_asks_for_new_times() throws Exception {
        assertThat(texts()).contains("6.7 ms in and out");
        port("Block", 128);
        until(() -> model().transport().portsProperty().get().roundTripFrames() == 192);
        assertThat(texts()).contains("4.0 ms in and out");
        awaitLevels();
        assertThat(model().findingsProperty().get())
                .filteredOn(finding -> finding.rule() == Finding.Rule.LOOP_NOT_TIMED)
                .hasSize(2)
                .allMatch(finding -> finding.sentence().contains("in blocks of"));
        press("Time all");
        until(() -> HardwareSlot.of(model().session()).stream()
                .allMatch(slot -> slot.insert(model().session())
                                .processor()
                                .loop()
                                .timing()
                                .orElseThrow()
                                .blockFrames()
                        == 128));
    }

    @Test
    void stems_through_a_loop_on_a_bus_are_captured_from_the_stems_view() throws Exception {
        robot.interact(() -> {
            // A short song of two tracks on a bus with a loop.
            model().edit(new Edit("Short", SmallSession::twoTracksThroughABusWithALoop));
        });
        awaitLevels();
        press("Time all");
        until(() -> loop(SmallSession.BUS).timing().isPresent());
        press("Capture what is missing");
        until(() -> loop(SmallSession.BUS).capture().isPresent());
        robot.interact(() -> desk().window().show(Step.STEMS));
        until(() -> texts().anyMatch(t -> t.contains("brings back each stem by itself: 2 passes")));
        press("Capture stems");
        until(() -> loop(SmallSession.BUS).shares().size() == 2);
        until(() -> texts().noneMatch(t -> t.contains("brings back each stem by itself")));
        robot.interact(() -> model().undo());
        assertThat(loop(SmallSession.BUS).shares()).hasSize(1);
    }

    @Test
    void a_loop_is_bypassed_in_the_Path_and_mixed_in_its_settings() throws Exception {
        robot.interact(() -> model().select(new ChannelId("double-bass-mic")));
        ToggleButton bypass = shown(ToggleButton.class, b -> b.getText().equals("Bypass"));
        robot.interact(bypass::fire);
        assertThat(insert(model().selectedChannel().id()).bypassed()).isTrue();
        assertThat(bypass.isSelected()).isTrue();
        robot.interact(bypass::fire);
        assertThat(insert(model().selectedChannel().id()).bypassed()).isFalse();
        press("Settings");
        TextField mix = shown(
                TextField.class, f -> String.valueOf(f.getAccessibleText()).startsWith("Mix: how much is processed"));
        robot.interact(mix::requestFocus);
        robot.interact(() -> mix.setText("40"));
        robot.push(KeyCode.ENTER);
        assertThat(insert(model().selectedChannel().id()).mix()).isEqualTo(0.4);
    }

    /** What is left of the demo: two short clips on a bus, through a cable and back. */
    private static final class SmallSession {
        static final ChannelId BUS = new ChannelId("voices");

        static Session twoTracksThroughABusWithALoop(Session demo) {
            List<Channel> left = new ArrayList<>();
            for (Track track : demo.tracks()) {
                if (track.id().equals(WHISTLE) || track.id().equals(BASS)) {
                    Clip clip = track.clips().getFirst();
                    left.add(track.withClips(List.of(new Clip(clip.source(), 0, 480_000, 24_000, 0)))
                            .withStrip(Strip.unity(Output.to(BUS))));
                }
            }
            Insert loop = Insert.of(new SlotId("hw"), HardwareLoop.KIND)
                    .withLoop(new Loop(Optional.empty(), 5, 5, Optional.empty(), Optional.empty()));
            left.add(
                    new Bus(BUS, "Voices", Strip.unity(Output.to(demo.mainId())).withInserts(List.of(loop))));
            left.add(new Bus(demo.mainId(), "Main", Strip.unity(new Output.Nowhere())));
            return demo.withVcas(List.of())
                    .withLinks(List.of())
                    .withChannels(left)
                    .withRack(new Rack(
                            Driver.SIMULATED,
                            1,
                            List.of(),
                            List.of(),
                            List.of(new Cable(Optional.empty(), 5, 5), new Cable(Optional.empty(), 6, 6))));
        }
    }
}
