package waterwheel.desktop.app;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.within;

import java.nio.file.Files;
import java.nio.file.Path;
import java.util.Set;
import javafx.scene.Node;
import javafx.scene.control.CheckBox;
import javafx.scene.control.ChoiceBox;
import javafx.scene.control.ToggleButton;
import javafx.scene.input.KeyCode;
import org.junit.jupiter.api.DisplayNameGeneration;
import org.junit.jupiter.api.DisplayNameGenerator;
import org.junit.jupiter.api.Test;
import waterwheel.core.audiofile.SampleEncoding;
import waterwheel.core.audiofile.WavWriter;
import waterwheel.core.inserts.Insert;
import waterwheel.core.path.Stage;
import waterwheel.core.processing.Convolution;
import waterwheel.core.session.ChannelId;
import waterwheel.core.session.LinkGroup;
import waterwheel.core.session.Output;
import waterwheel.core.session.PanLaw;
import waterwheel.core.session.Strip;
import waterwheel.core.session.Vca;
import waterwheel.desktop.frame.Step;

/** What moves several channels at once, where channels go beside their bus, and the pan law. */
@DisplayNameGeneration(DisplayNameGenerator.ReplaceUnderscores.class)
class GroupsAndLawsTest extends DrivenApplication {
    private static final ChannelId FIDDLE = new ChannelId("fiddle-1");
    private static final ChannelId OTHER = new ChannelId("fiddle-2");

    private Strip strip(ChannelId id) {
        return model().session().channel(id).strip();
    }

    @Test
    void linked_lanes_move_together_but_for_one_that_is_moved_with_Alt() {
        robot.interact(() -> {
            desk().window().show(Step.BLEND);
            model().select(FIDDLE);
            model().toggleSelected(OTHER);
        });
        double apart = strip(FIDDLE).standingDb(Strip.FADER) - strip(OTHER).standingDb(Strip.FADER);
        robot.interact(() -> button("Link").fire());
        LinkGroup made = model().session().links().getFirst();
        assertThat(made.members()).containsExactlyInAnyOrder(FIDDLE, OTHER);
        Node lane = lane("Fiddle 1");
        robot.interact(() -> {
            model().select(FIDDLE);
            lane.requestFocus();
        });
        double before = strip(FIDDLE).standingDb(Strip.FADER);
        robot.push(KeyCode.SHIFT, KeyCode.LEFT);
        assertThat(strip(FIDDLE).standingDb(Strip.FADER)).isCloseTo(before - 1, within(1e-9));
        assertThat(strip(FIDDLE).standingDb(Strip.FADER) - strip(OTHER).standingDb(Strip.FADER))
                .isCloseTo(apart, within(1e-9));
        robot.push(KeyCode.ALT, KeyCode.LEFT);
        assertThat(strip(FIDDLE).standingDb(Strip.FADER) - strip(OTHER).standingDb(Strip.FADER))
                .isCloseTo(apart - 0.1, within(1e-9));
        robot.interact(() -> shown(ToggleButton.class, t -> "Links mutes".equals(t.getAccessibleText()))
                .fire());
        assertThat(model().session().links().getFirst().attributes())
                .isEqualTo(Set.of(LinkGroup.Attribute.FADER, LinkGroup.Attribute.SOLO));
    }

    @Test
    void a_channel_goes_under_a_VCA_is_left_alone_by_it_and_comes_out() {
        Vca band = model().session().vcas().stream()
                .filter(v -> v.name().equals("Band"))
                .findFirst()
                .orElseThrow();
        robot.interact(() -> model().select(LEAD));
        choose("VCAs and links", "Under Band");
        assertThat(vca(band).moves(LEAD)).isTrue();
        choose("VCAs and links", "left alone by Band for now");
        assertThat(vca(band).members()).contains(LEAD);
        assertThat(vca(band).moves(LEAD)).isFalse();
        choose("VCAs and links", "Under Band");
        assertThat(vca(band).members()).doesNotContain(LEAD);
        assertThat(vca(band).exempt()).doesNotContain(LEAD);
    }

    private Vca vca(Vca earlier) {
        return model().session().vcas().stream()
                .filter(v -> v.id().equals(earlier.id()))
                .findFirst()
                .orElseThrow();
    }

    @Test
    void an_extra_output_and_an_interface_pair_are_chosen_in_the_Path() throws Exception {
        robot.interact(() -> model().select(FIDDLE));
        choose("Also to", "Voices");
        assertThat(strip(FIDDLE).extraOutputs()).hasSize(1);
        ChoiceBox<?> output = shown(
                ChoiceBox.class, c -> String.valueOf(c.getAccessibleText()).startsWith("Where this channel goes"));
        robot.interact(() -> {
            int pair = output.getItems().indexOf(new Output.ToInterface(2));
            output.getSelectionModel().select(pair);
        });
        assertThat(strip(FIDDLE).output()).isEqualTo(new Output.ToInterface(2));
        awaitLevels();
        assertThat(model().levels().pairs()).containsOnlyKeys(2);
        robot.interact(() -> desk().window().show(Step.BLEND));
        assertThat(robot.from(desk().window())
                        .lookup(".lane")
                        .match(n -> visible(n)
                                && String.valueOf(n.getAccessibleText()).startsWith("Fiddle 1,"))
                        .tryQuery())
                .as("a lane beside the buses")
                .isPresent();
    }

    @Test
    void another_pan_law_is_looked_at_and_then_chosen_keeping_levels() throws Exception {
        double before = model().levels().of(LEAD).orElseThrow().at(Stage.OUTPUT).samplePeakDbfs();
        double fader = strip(LEAD).standingDb(Strip.FADER);
        ChoiceBox<?> law = shown(
                ChoiceBox.class, c -> String.valueOf(c.getAccessibleText()).startsWith("Pan law"));
        robot.interact(() -> law.getSelectionModel().select(law.getItems().indexOf(PanLaw.MINUS_6)));
        assertThat(model().session().panLaw()).as("only looked at").isEqualTo(PanLaw.MINUS_3);
        assertThat(texts()).contains("Lead voice").anyMatch(t -> t.contains("Pan law \u22123 dB to \u22126 dB"));
        CheckBox mine = shown(CheckBox.class, c -> c.getText().startsWith("My own law"));
        robot.interact(mine::fire);
        assertThat(desk().settings().ownPanLaw()).contains(PanLaw.MINUS_6);
        robot.interact(() -> button("Change keeping levels").fire());
        assertThat(model().session().panLaw()).isEqualTo(PanLaw.MINUS_6);
        assertThat(strip(LEAD).standingDb(Strip.FADER)).isCloseTo(fader + 3.01, within(0.005));
        awaitLevels();
        assertThat(model().levels().of(LEAD).orElseThrow().at(Stage.OUTPUT).samplePeakDbfs())
                .isCloseTo(before, within(0.01));
        robot.push(KeyCode.CONTROL, KeyCode.Z);
        assertThat(model().session().panLaw()).as("one step").isEqualTo(PanLaw.MINUS_3);
        robot.interact(this::openDemo);
        until(() -> texts().anyMatch(t -> t.contains("runs under the pan law \u22123 dB")));
        desk().settings().setOwnPanLaw(PanLaw.MINUS_3);
    }

    @Test
    void a_convolution_takes_a_file_as_its_response_and_is_heard() throws Exception {
        robot.interact(() -> model().select(LEAD));
        choose("Add insert", Convolution.KIND.label());
        awaitLevels();
        assertThat(model().levels().of(LEAD).orElseThrow().at(Stage.OUTPUT).silent())
                .isTrue();
        assertThat(texts()).anyMatch(t -> t.contains("silence comes out"));
        Path file = response();
        robot.interact(() -> desk().window().inserts().orElseThrow().takeResponse(file));
        until(() -> strip(LEAD).inserts().getLast().processor().response().isPresent());
        awaitLevels();
        Insert made = strip(LEAD).inserts().getLast();
        var around = model().levels().of(LEAD).orElseThrow().around(made.id()).orElseThrow();
        // A single sample of any height is the signal itself: responses are brought to one power.
        assertThat(around.after().samplePeakDbfs()).isCloseTo(around.before().samplePeakDbfs(), within(0.001));
        // The copy in the session's folder goes, so that other tests find the folder as it was.
        robot.interact(() -> {
            model().undo();
            model().undo();
        });
        Files.delete(folder.resolve("audio/tap.wav"));
    }

    private Path response() throws Exception {
        Path file = shared.resolve("tap.wav");
        float[][] samples = new float[1][200];
        samples[0][0] = 0.25f;
        try (WavWriter writer = WavWriter.create(file, 1, 48_000, SampleEncoding.FLOAT_32, 200)) {
            writer.write(samples, 0, 200);
            writer.finish();
        }
        return file;
    }
}
