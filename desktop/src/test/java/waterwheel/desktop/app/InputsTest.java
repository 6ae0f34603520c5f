package waterwheel.desktop.app;

import static org.assertj.core.api.Assertions.assertThat;

import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import javafx.scene.control.ChoiceBox;
import javafx.scene.control.ContextMenu;
import javafx.scene.control.ToggleButton;
import javafx.scene.input.KeyCode;
import javafx.stage.Window;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.DisplayNameGeneration;
import org.junit.jupiter.api.DisplayNameGenerator;
import org.junit.jupiter.api.Test;
import waterwheel.core.edit.Edit;
import waterwheel.core.findings.Finding;
import waterwheel.core.rack.Cable;
import waterwheel.core.rack.PortSide;
import waterwheel.core.session.Clip;
import waterwheel.core.session.Listen;
import waterwheel.core.session.Track;
import waterwheel.desktop.frame.Step;

/** A track is made of an input, its level is looked at, it is recorded, listened to, and let go. */
@DisplayNameGeneration(DisplayNameGenerator.ReplaceUnderscores.class)
class InputsTest extends DrivenApplication {
    @BeforeEach
    void show() {
        // What the monitor plays comes back by inputs 1 and 2.
        robot.interact(() -> {
            model().edit(new Edit("Cables", session -> {
                List<Cable> cables = new ArrayList<>(session.rack().cables());
                cables.add(new Cable(Optional.empty(), 7, 1));
                cables.add(new Cable(Optional.empty(), 8, 2));
                return session.withRack(session.rack().withCables(cables).withMonitorPair(4));
            }));
            desk().window().show(Step.OUTBOARD);
            model().transport().seek(0);
        });
    }

    private Track fed() {
        return model().session().tracks().stream()
                .filter(track -> track.input().isPresent())
                .findFirst()
                .orElseThrow();
    }

    private void makeTrack() {
        robot.clickOn(seen(".socket-in", "Input 1"));
        robot.interact(() -> {
            ContextMenu menu = Window.getWindows().stream()
                    .filter(ContextMenu.class::isInstance)
                    .map(ContextMenu.class::cast)
                    .findFirst()
                    .orElseThrow();
            menu.getItems().stream()
                    .filter(item -> "New track from Input 1".equals(item.getText()))
                    .findFirst()
                    .orElseThrow()
                    .fire();
            menu.hide();
        });
    }

    @Test
    void what_the_monitor_plays_comes_in_is_recorded_and_one_step_takes_it_back() throws Exception {
        makeTrack();
        assertThat(fed().name()).isEqualTo("Input 1");
        assertThat(model().selectedChannel()).isEqualTo(fed());
        assertThat(shown(ToggleButton.class, button -> "Record".equals(button.getText()))
                        .isSelected())
                .isTrue();
        int steps = model().session().sources().size();
        robot.press(KeyCode.CONTROL, KeyCode.SHIFT).type(KeyCode.R).release(KeyCode.SHIFT, KeyCode.CONTROL);
        until(() -> model().transport().secondsProperty().get() > 1.5);
        assertThat(model().recordings().recordingProperty().get()).isTrue();
        until(() -> texts().anyMatch(text -> text.startsWith("VU ") && text.contains("peak 0.0 dBFS")));
        // The demo's mix is over full scale, and what comes in clips.
        assertThat(texts()).contains("clips");
        robot.type(KeyCode.SPACE);
        until(() -> !fed().clips().isEmpty());
        Clip clip = fed().clips().getFirst();
        assertThat(clip.startFrames()).isZero();
        assertThat(clip.lengthFrames()).isGreaterThan(60_000);
        assertThat(model().session().sources()).hasSize(steps + 1);
        awaitLevels();
        assertThat(model().levels().of(fed().id()).orElseThrow().first().silent())
                .isFalse();
        robot.interact(() -> model().undo());
        assertThat(fed().clips()).isEmpty();
        assertThat(model().session().sources()).hasSize(steps);
    }

    @Test
    void listening_to_the_monitor_is_warned_of_before_it_howls() throws Exception {
        makeTrack();
        robot.interact(() -> button("Howl?").fire());
        until(() -> texts().anyMatch(text -> text.contains("Input 1 hears the monitor at")));
        assertThat(texts()).anyMatch(text -> text.contains("headphones"));
        robot.interact(() -> listen().setValue(Listen.ALWAYS));
        assertThat(fed().input().orElseThrow().listen()).isEqualTo(Listen.ALWAYS);
        assertThat(texts()).anyMatch(text -> text.contains("hears the loudspeakers, it howls"));
        awaitLevels();
        Finding finding = model().findingsProperty().get().stream()
                .filter(one -> one.rule() == Finding.Rule.LISTENING_HOWLS)
                .findFirst()
                .orElseThrow();
        robot.interact(() -> model().edit(finding.remedy().orElseThrow()));
        assertThat(fed().input().orElseThrow().listen()).isEqualTo(Listen.NEVER);
        assertThat(listen().getValue()).isEqualTo(Listen.NEVER);
    }

    @SuppressWarnings("unchecked") // the box of that name holds these
    private ChoiceBox<Listen> listen() {
        return (ChoiceBox<Listen>) shown(ChoiceBox.class, box -> "Listen".equals(box.getAccessibleText()));
    }

    @Test
    void nothing_marked_is_told_and_an_input_can_be_taken_away() throws Exception {
        robot.press(KeyCode.CONTROL, KeyCode.SHIFT).type(KeyCode.R).release(KeyCode.SHIFT, KeyCode.CONTROL);
        until(() -> texts().anyMatch(text -> text.contains("Nothing is marked to be recorded.")));
        assertThat(model().transport().playingProperty().get()).isFalse();
        makeTrack();
        assertThat(seen(".socket-in", "Input 1: Input 1")).isNotNull();
        robot.interact(() -> button("No input").fire());
        assertThat(model().session().tracks()).noneMatch(track -> track.input().isPresent());
        assertThat(model().session().rack().port(PortSide.INPUT, 1).name()).isEmpty();
    }
}
