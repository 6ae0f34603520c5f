package waterwheel.desktop.app;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.within;

import java.util.Comparator;
import java.util.List;
import javafx.scene.Node;
import javafx.scene.control.Button;
import javafx.scene.control.Label;
import javafx.scene.control.MenuButton;
import javafx.scene.control.TextField;
import javafx.scene.control.ToggleButton;
import javafx.scene.input.KeyCode;
import javafx.scene.layout.Pane;
import javafx.scene.layout.Region;
import javafx.scene.shape.Polyline;
import org.junit.jupiter.api.DisplayNameGeneration;
import org.junit.jupiter.api.DisplayNameGenerator;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.MethodSource;
import waterwheel.core.edit.Edits;
import waterwheel.core.edit.GroupEdits;
import waterwheel.core.inserts.Insert;
import waterwheel.core.inserts.ProcessorKind;
import waterwheel.core.inserts.SlotId;
import waterwheel.core.path.Stage;
import waterwheel.core.processing.Convolution;
import waterwheel.core.processing.HardwareLoop;
import waterwheel.core.processing.Reverb;
import waterwheel.core.processing.Saturator;
import waterwheel.core.processing.TestTone;
import waterwheel.core.session.ChannelId;
import waterwheel.core.session.Output;
import waterwheel.core.session.Send;
import waterwheel.core.session.Strip;
import waterwheel.core.session.Vca;
import waterwheel.core.units.LevelText;
import waterwheel.desktop.controls.LevelBar;
import waterwheel.desktop.frame.Step;

/** Flow, Blend, and the Path's inserts and sends. */
@DisplayNameGeneration(DisplayNameGenerator.ReplaceUnderscores.class)
class FlowAndBlendTest extends DrivenApplication {
    private static final ChannelId HARMONIUM = new ChannelId("harmonium");

    @Test
    void an_insert_is_added_in_the_Path_set_in_its_panel_and_measured() throws Exception {
        robot.interact(() -> model().select(LEAD));
        choose("Add insert", Saturator.KIND.label());
        Insert made = model().selectedChannel().strip().inserts().getLast();
        assertThat(made.processor().kind()).isEqualTo(Saturator.KIND);
        assertThat(texts()).anyMatch(t -> t.startsWith("Saturator on Lead voice"));
        TextField drive = robot.from(desk().window())
                .lookup((Node n) -> n instanceof TextField f
                        && visible(f)
                        && String.valueOf(f.getAccessibleText()).startsWith("Drive"))
                .queryAs(TextField.class);
        robot.interact(drive::requestFocus);
        robot.push(KeyCode.CONTROL, KeyCode.A);
        robot.write("12");
        robot.push(KeyCode.ENTER);
        Insert set = model().selectedChannel().strip().inserts().getLast();
        assertThat(set.processor().value("driveDb")).isEqualTo(12);
        awaitLevels();
        var around = model().levels().of(LEAD).orElseThrow().around(set.id()).orElseThrow();
        assertThat(around.after().integratedLufs())
                .isGreaterThan(around.before().integratedLufs() + 3);
        robot.interact(() -> button("Match").fire());
        awaitLevels();
        var matched = model().levels().of(LEAD).orElseThrow().around(set.id()).orElseThrow();
        assertThat(matched.after().integratedLufs()).isCloseTo(matched.before().integratedLufs(), within(0.1));
        robot.interact(() -> {
            model().undo();
            model().undo();
            model().undo();
        });
        assertThat(model().selectedChannel().strip().inserts()).hasSize(2);
    }

    /** A reverb gives out something else than it gets: there is no loudness to compare, but a level. */
    @Test
    void a_reverb_is_matched_by_its_average_level() throws Exception {
        robot.interact(() -> model().select(LEAD));
        choose("Add insert", Reverb.KIND.label());
        Insert made = model().selectedChannel().strip().inserts().getLast();
        awaitLevels();
        assertThat(texts()).anyMatch(t -> t.matches("average −\\d+\\.\\d dBFS before, [−+]\\d+\\.\\d dBFS after"));
        robot.interact(() -> button("Match").fire());
        awaitLevels();
        var matched = model().levels().of(LEAD).orElseThrow().around(made.id()).orElseThrow();
        assertThat(matched.after().averageDbfs())
                .isCloseTo(matched.before().averageDbfs(), within(0.1))
                .isNotNaN();
        robot.interact(() -> {
            model().undo();
            model().undo();
        });
        assertThat(model().selectedChannel().strip().inserts()).hasSize(2);
    }

    @ParameterizedTest
    @MethodSource("waterwheel.core.processing.Processors#kinds")
    void every_processor_draws_what_it_does_within_its_picture(ProcessorKind kind) {
        robot.interact(() -> model().select(HARMONIUM));
        choose("Add insert", kind.label());
        List<Region> pictures = robot.from(desk().window()).lookup(".curve-picture").queryAllAs(Region.class).stream()
                .filter(FlowAndBlendTest::visible)
                .toList();
        if (kind.equals(TestTone.KIND) || kind.equals(Convolution.KIND) || kind.equals(HardwareLoop.KIND)) {
            assertThat(pictures)
                    .as("a test signal, a response that is not chosen yet, or what nobody can compute")
                    .isEmpty();
            return;
        }
        Region picture = pictures.getFirst();
        List<Polyline> lines = picture.getChildrenUnmodifiable().stream()
                .filter(Polyline.class::isInstance)
                .map(Polyline.class::cast)
                .filter(line -> !line.getPoints().isEmpty())
                .toList();
        assertThat(lines).isNotEmpty().allSatisfy(line -> {
            for (int i = 0; i < line.getPoints().size(); i += 2) {
                assertThat(line.getPoints().get(i)).isBetween(0.0, picture.getWidth());
                assertThat(line.getPoints().get(i + 1)).isBetween(0.0, picture.getHeight());
            }
        });
    }

    @Test
    void the_Path_of_a_return_names_what_sends_to_it() {
        robot.interact(() -> model().select(new ChannelId("hall")));
        assertThat(texts()).anyMatch(t -> t.startsWith("Sends of") && t.contains("Lead voice"));
        robot.interact(() -> model().select(new ChannelId("band")));
        assertThat(texts()).anyMatch(t -> t.startsWith("Sum of") && t.contains("Parallel percussion"));
    }

    @Test
    void bypass_and_order_of_inserts_are_a_step_each() {
        robot.interact(() -> model().select(LEAD));
        ToggleButton bypass = robot.from(desk().window())
                .lookup((Node n) -> n instanceof ToggleButton b && b.getText().equals("Bypass") && visible(b))
                .queryAs(ToggleButton.class);
        robot.interact(bypass::fire);
        assertThat(model().selectedChannel().strip().inserts().getFirst().bypassed())
                .isTrue();
        robot.interact(() -> button("Down").fire());
        assertThat(model().selectedChannel().strip().inserts().getFirst().id()).isEqualTo(new SlotId("i2"));
        robot.interact(() -> {
            model().undo();
            model().undo();
        });
        assertThat(model().selectedChannel().strip().inserts().getFirst().bypassed())
                .isFalse();
    }

    @Test
    void a_send_is_added_from_what_closes_no_loop() throws Exception {
        robot.interact(() -> model().select(HARMONIUM));
        choose("Add send", "To Hall");
        Send made = model().selectedChannel().strip().sends().getFirst();
        assertThat(made.target()).isEqualTo(new Send.ToBus(new ChannelId("hall")));
        double before = model().levels()
                .of(new ChannelId("hall"))
                .map(l -> l.first().averageDbfs())
                .orElse(-100.0);
        awaitLevels();
        assertThat(model().levels()
                        .of(new ChannelId("hall"))
                        .orElseThrow()
                        .at(Stage.INPUT)
                        .averageDbfs())
                .isGreaterThan(before - 0.001);
        robot.interact(() -> model().select(new ChannelId("hall")));
        MenuButton add = shown(MenuButton.class, m -> m.getText().equals("Add send"));
        robot.interact(add::show);
        assertThat(add.getItems()).noneMatch(i -> "To Hall".equals(i.getText()));
        robot.interact(add::hide);
    }

    @Test
    void the_map_shows_every_channel_and_a_card_feeds_another_bus() throws Exception {
        robot.interact(() -> desk().window().show(Step.FLOW));
        assertThat(robot.from(desk().window()).lookup(".flow-card").queryAll().stream()
                        .filter(FlowAndBlendTest::visible))
                .hasSize(model().session().channels().size());
        robot.interact(() -> card("Fiddle 1").requestFocus());
        assertThat(model().selectedChannel().name()).isEqualTo("Fiddle 1");
        robot.push(KeyCode.RIGHT);
        assertThat(model().selectedChannel().planes())
                .as("a bus stands at the right")
                .isEqualTo(2);
        robot.interact(() -> {
            model().select(new ChannelId("fiddle-1"));
            button("Bus around").fire();
        });
        Output output =
                model().session().channel(new ChannelId("fiddle-1")).strip().output();
        assertThat(output).isInstanceOf(Output.ToBus.class).isNotEqualTo(Output.to(new ChannelId("strings")));
        until(() -> robot.from(desk().window()).lookup(".flow-card").queryAll().stream()
                .anyMatch(
                        n -> visible(n) && String.valueOf(n.getAccessibleText()).startsWith("Bus,")));
    }

    @Test
    void folded_tracks_say_how_loud_they_are_and_open_by_Enter() throws Exception {
        robot.interact(() -> desk().window().show(Step.FLOW));
        awaitLevels();
        robot.interact(() -> {
            model().select(model().session().mainId());
            button("Fold tracks").fire();
        });
        double loudest = model().session().tracks().stream()
                .filter(track -> track.strip().output().equals(Output.to(new ChannelId("voices"))))
                .mapToDouble(track -> model().levels()
                        .of(track.id())
                        .orElseThrow()
                        .at(Stage.OUTPUT)
                        .averageDbfs())
                .max()
                .orElseThrow();
        Node voices = card("5 tracks of Voices");
        assertThat(voices.getAccessibleText()).contains("up to " + LevelText.signed(loudest, 1, true));
        assertThat(robot.from(desk().window()).lookup(".flow-send").queryAll()).hasSize(3);
        robot.interact(voices::requestFocus);
        robot.push(KeyCode.ENTER);
        assertThat(card("Lead voice")).isNotNull();
        assertThat(robot.from(desk().window())
                        .lookup(".flow-card")
                        .match(n -> String.valueOf(n.getAccessibleText()).startsWith("Fiddle 1"))
                        .tryQuery())
                .isEmpty();
        robot.interact(() -> button("Unfold").fire());
        assertThat(card("Fiddle 1")).isNotNull();
    }

    @Test
    void who_fills_the_peak_of_the_main_bus_is_told() throws Exception {
        robot.interact(() -> desk().window().show(Step.FLOW));
        robot.interact(() -> {
            model().select(model().session().mainId());
            button("Who fills the peak").fire();
        });
        until(() -> texts().anyMatch(t -> t.startsWith("Highest peak of Main") && t.contains("Band")));
        List<Integer> parts = seen(".peak-part").stream()
                .filter(Node::isVisible)
                .map(node -> Integer.parseInt(((Label) node)
                        .getText()
                        .replace('−', '-')
                        .replace(" %", "")
                        .replace("+", "")))
                .toList();
        assertThat(parts)
                .as("of links down to the tracks")
                .hasSizeGreaterThan(8)
                .noneMatch(part -> part == 0);
        robot.interact(() -> button("Lower peak").fire());
        until(() -> texts().anyMatch(t -> t.startsWith("Peak 2 of Main")));
        robot.interact(() -> model().edit(Edits.fader(model().session().main(), -3)));
        assertThat(seen(".peak-part").stream().filter(Node::isVisible))
                .as("of another mix they were not true")
                .isEmpty();
    }

    @Test
    void lanes_move_together_fold_and_are_found_by_typing() throws Exception {
        robot.interact(() -> desk().window().show(Step.BLEND));
        List<Node> lanes = seen(".lane");
        assertThat(lanes).hasSizeGreaterThan(20);
        robot.interact(() -> lane("Chorus voice 1").requestFocus());
        robot.push(KeyCode.SHIFT, KeyCode.DOWN);
        robot.push(KeyCode.SHIFT, KeyCode.LEFT);
        assertThat(model().session()
                        .channel(new ChannelId("chorus-voice-1"))
                        .strip()
                        .standingDb(Strip.FADER))
                .isEqualTo(-1);
        assertThat(model().session()
                        .channel(new ChannelId("chorus-voice-2"))
                        .strip()
                        .standingDb(Strip.FADER))
                .isEqualTo(-1);
        robot.push(KeyCode.CONTROL, KeyCode.Z);
        TextField find = robot.from(desk().window())
                .lookup((Node n) ->
                        n instanceof TextField f && visible(f) && "Find a channel".equals(f.getAccessibleText()))
                .queryAs(TextField.class);
        robot.interact(() -> find.setText("chorus"));
        until(() -> seen(".lane").size() == 4);
        robot.interact(() -> find.setText(""));
        Button fold = robot.from(lane("Voices")).lookup(".fold").queryButton();
        robot.interact(fold::fire);
        until(() -> seen(".lane").stream()
                .noneMatch(n -> String.valueOf(n.getAccessibleText()).startsWith("Chorus voice 1")));
        robot.interact(fold::fire);
    }

    private List<LevelBar> vcaBars(int lane) {
        return robot.from(desk().window()).lookup(".member-meter").queryAll().stream()
                .skip(lane)
                .limit(1)
                .flatMap(meter -> ((Pane) meter).getChildren().stream())
                .filter(Node::isVisible)
                .map(LevelBar.class::cast)
                .toList();
    }

    @Test
    void a_VCA_of_mono_members_has_one_bar_and_one_of_stereo_members_has_two() throws Exception {
        robot.interact(() -> desk().window().show(Step.BLEND));
        awaitLevels();
        String lead = LevelText.level(
                model().levels().of(LEAD).orElseThrow().at(Stage.FADER).samplePeakDbfs(), "dBFS");
        assertThat(vcaBars(0)).singleElement().satisfies(bar -> assertThat(bar.getAccessibleText())
                .startsWith("Loudest member: Lead voice. Peak " + lead));
        assertThat(vcaBars(1)).hasSize(2);
        String loudest = model().session().vcas().getLast().members().stream()
                .max(Comparator.comparingDouble(member -> model().levels()
                        .of(member)
                        .orElseThrow()
                        .at(Stage.FADER)
                        .samplePeakDbfs()))
                .map(member -> model().session().channel(member).name())
                .orElseThrow();
        assertThat(vcaBars(1).getFirst().getAccessibleText()).startsWith("Loudest member: " + loudest + ". Peak ");
        robot.interact(() -> model().edit(GroupEdits.vca(
                model().session().vcas().getLast(), v -> v.withMembers(List.of(LEAD, new ChannelId("percussion"))))));
        awaitLevels();
        assertThat(vcaBars(1)).hasSize(1);
    }

    @Test
    void a_VCA_moves_its_members_and_folds_into_them() throws Exception {
        robot.interact(() -> desk().window().show(Step.BLEND));
        Vca voices = model().session().vcas().getFirst();
        double before = model().levels().of(LEAD).orElseThrow().at(Stage.FADER).averageDbfs();
        robot.interact(() -> model().edit(GroupEdits.vca(voices, v -> v.withFaderDb(-5))));
        awaitLevels();
        assertThat(model().levels().of(LEAD).orElseThrow().at(Stage.FADER).averageDbfs())
                .isCloseTo(before - 5, within(0.01));
        robot.interact(() -> button("Fold in").fire());
        assertThat(model().session().channel(LEAD).strip().standingDb(Strip.FADER))
                .isEqualTo(-5);
        assertThat(model().session().vcas().getFirst().faderDb()).isZero();
        awaitLevels();
        assertThat(model().levels().of(LEAD).orElseThrow().at(Stage.FADER).averageDbfs())
                .isCloseTo(before - 5, within(0.01));
    }
}
