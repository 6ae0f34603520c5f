package waterwheel.desktop.app;

import static org.assertj.core.api.Assertions.assertThat;

import java.util.List;
import javafx.scene.control.Button;
import javafx.scene.control.ChoiceBox;
import javafx.scene.input.KeyCode;
import org.assertj.core.data.Offset;
import org.junit.jupiter.api.AfterEach;
import org.junit.jupiter.api.DisplayNameGeneration;
import org.junit.jupiter.api.DisplayNameGenerator;
import org.junit.jupiter.api.Test;
import waterwheel.core.metering.Figures;
import waterwheel.core.session.Bus;
import waterwheel.core.session.Channel;
import waterwheel.core.session.ChannelId;
import waterwheel.core.session.Track;
import waterwheel.desktop.frame.Step;

/** A channel is printed from its Path, its source is parked and listed, and comes back with one gesture. */
@DisplayNameGeneration(DisplayNameGenerator.ReplaceUnderscores.class)
class PrintTest extends DrivenApplication {
    private List<Channel> channels() {
        return model().session().channels();
    }

    private void open(ChannelId id) {
        robot.interact(() -> {
            desk().window().show(Step.BLEND);
            model().select(id);
        });
        robot.interact(() -> button("Print\u2026").fire());
    }

    private void bringBack(String name) {
        Button button = shown(Button.class, b -> ("Bring back " + name).equals(b.getAccessibleText()));
        robot.interact(button::fire);
    }

    @AfterEach
    void put_the_panel_away() {
        robot.interact(() -> desk().window().togglePrints());
    }

    @Test
    void a_track_is_printed_parked_listed_and_brought_back() throws Exception {
        awaitLevels();
        List<Channel> before = channels();
        Figures mix = model().levels().main().orElseThrow();
        open(LEAD);
        assertThat(texts()).contains("of Lead voice", "The mix stays the same.");
        assertThat(texts()).anyMatch(text -> text.startsWith("Loudest sample +3.3 dBFS, headroom"));
        robot.interact(() -> button("Print").fire());
        until(() -> model().session().parked().size() == 2);
        assertThat(model().session().channel(LEAD).name()).isEqualTo("Lead voice print");
        awaitLevels();
        assertThat(model().levels().main().orElseThrow().samplePeakDbfs())
                .isCloseTo(mix.samplePeakDbfs(), Offset.offset(1e-4));
        assertThat(texts()).anyMatch(text -> text.startsWith("Lead voice; Lead voice print is in its place"));
        bringBack("Lead voice");
        assertThat(channels()).isEqualTo(before);
        robot.interact(() -> model().undo());
        assertThat(model().session().channel(LEAD).name()).isEqualTo("Lead voice print");
        robot.interact(() -> model().undo());
        assertThat(channels()).isEqualTo(before);
        // The drone that the demo comes with.
        assertThat(model().session().parked()).hasSize(1);
    }

    @Test
    void a_bus_takes_along_what_fed_it_alone_and_says_what_would_change() throws Exception {
        awaitLevels();
        ChannelId strings = channels().stream()
                .filter(channel -> channel.name().equals("Strings"))
                .findFirst()
                .orElseThrow()
                .id();
        open(strings);
        ChoiceBox<?> upto = shown(ChoiceBox.class, box -> "Printed up to".equals(box.getAccessibleText()));
        robot.interact(() -> upto.getSelectionModel().select(2));
        assertThat(texts()).anyMatch(text -> text.contains("No VCA") || text.equals("The mix stays the same."));
        robot.interact(() -> upto.getSelectionModel().select(0));
        int count = channels().size();
        robot.interact(() -> button("Print").fire());
        until(() -> model().session().parked().size() == 2);
        assertThat(model().session().channel(strings)).isInstanceOf(Track.class);
        assertThat(channels().size())
                .isEqualTo(count - model().session().parked().getLast().along().size());
        bringBack("Strings");
        assertThat(model().session().channel(strings)).isInstanceOf(Bus.class);
        assertThat(channels()).hasSize(count);
        // By keyboard it goes away.
        robot.push(KeyCode.SHORTCUT, KeyCode.P);
        robot.push(KeyCode.SHORTCUT, KeyCode.P);
    }
}
