package waterwheel.desktop.app;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.within;

import javafx.scene.control.ToggleButton;
import javafx.scene.input.KeyCode;
import org.junit.jupiter.api.AfterEach;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.DisplayNameGeneration;
import org.junit.jupiter.api.DisplayNameGenerator;
import org.junit.jupiter.api.Test;
import waterwheel.core.controllers.SimulatedController;
import waterwheel.core.rides.Ride;
import waterwheel.core.session.ChannelId;
import waterwheel.core.session.ControlId;
import waterwheel.core.session.Controls;
import waterwheel.core.session.Session;
import waterwheel.core.units.FaderTravel;
import waterwheel.desktop.controls.Fader;
import waterwheel.desktop.frame.Step;

/** A controller's parts on the screen's controls, with the controller that is not there. */
@DisplayNameGeneration(DisplayNameGenerator.ReplaceUnderscores.class)
class ControllersTest extends DrivenApplication {
    private static final ChannelId WHISTLE = new ChannelId("low-whistle");
    private static final ControlId FADER = ControlId.ofStrip(WHISTLE, "faderDb");
    private static final ControlId MUTE = ControlId.ofStrip(WHISTLE, "muted");

    @BeforeEach
    void the_panel_is_open_over_the_lanes() {
        robot.interact(() -> {
            model().select(WHISTLE);
            desk().window().show(Step.BLEND);
        });
        robot.push(KeyCode.CONTROL, KeyCode.K);
    }

    @AfterEach
    void put_the_panel_away() {
        robot.push(KeyCode.CONTROL, KeyCode.K);
        robot.interact(() -> model().rideTakes().recordingProperty().set(false));
    }

    private SimulatedController controller() {
        return model().controllers().simulated();
    }

    private Fader fader() {
        return (Fader) lane("Low whistle").lookup(".fader");
    }

    private double reading(ControlId id) {
        return Controls.reading(model().session(), id, model().playhead());
    }

    /** Moves both, the control on the screen first. */
    private void learnFader() {
        robot.interact(() ->
                shown(ToggleButton.class, b -> b.getText().equals("Learn")).fire());
        robot.interact(() -> fader().setValue(0.7));
        assertThat(texts()).anyMatch(t -> t.startsWith("Fader of Low whistle was moved"));
        robot.interact(() -> controller().fader(0, 0));
        robot.interact(() ->
                shown(ToggleButton.class, b -> b.getText().equals("Learn")).fire());
        for (int i = 0; i < 4; i++) {
            robot.interact(() -> controller().fader(0, 0));
        }
    }

    @Test
    void what_is_learnt_by_moving_both_is_taken_up_where_it_is_met() throws Exception {
        learnFader();
        assertThat(model().session().assignments()).singleElement().satisfies(one -> assertThat(one.control())
                .isEqualTo(FADER));
        double stood = reading(FADER);
        robot.interact(() -> controller().fader(0, 0.5));
        assertThat(reading(FADER)).isEqualTo(stood);
        assertThat(texts()).anyMatch(t -> t.contains("moves Fader of Low whistle; takes it up at"));
        // At once, so that no busy machine makes a rest of it, which would end the movement.
        robot.interact(() -> {
            for (double place = 0.5; place <= 0.8; place += 0.02) {
                controller().fader(0, place);
            }
            controller().fader(0, 0.8);
        });
        assertThat(reading(FADER)).isCloseTo(FaderTravel.toDb(0.8), within(0.01));
        // All of one movement is undone in one step.
        until(() -> true);
        robot.interact(() -> model().undo());
        assertThat(reading(FADER)).isEqualTo(stood);
        robot.interact(() -> button("Release").fire());
        assertThat(model().session().assignments()).isEmpty();
    }

    @Test
    void a_button_mutes_and_the_next_press_ends_that() {
        robot.interact(() ->
                shown(ToggleButton.class, b -> b.getText().equals("Learn")).fire());
        robot.interact(() -> controller().button(2, true));
        assertThat(texts()).anyMatch(t -> t.startsWith("Simulated controller, note 38 was moved"));
        robot.interact(() -> ((ToggleButton) lane("Low whistle").lookup(".toggle-button.mute")).fire());
        robot.interact(() ->
                shown(ToggleButton.class, b -> b.getText().equals("Learn")).fire());
        double muted = reading(MUTE);
        robot.interact(() -> {
            controller().button(2, false);
            controller().button(2, true);
            controller().button(2, false);
        });
        assertThat(reading(MUTE)).isEqualTo(1 - muted);
        robot.interact(() -> controller().button(2, true));
        assertThat(reading(MUTE)).isEqualTo(muted);
    }

    @Test
    void a_controllers_fader_writes_a_ride_and_lets_go_when_it_rests() throws Exception {
        learnFader();
        Session before = model().session();
        double stood = reading(FADER);
        robot.interact(() -> {
            model().rideTakes().recordingProperty().set(true);
            model().transport().seek(30);
            model().transport().playOrStop();
        });
        until(() -> model().transport().secondsProperty().get() > 30.2);
        double place = FaderTravel.toPlace(stood);
        long[] moved = new long[1];
        robot.interact(() -> {
            moved[0] = model().playhead();
            controller().fader(0, place);
            controller().fader(0, place - 0.2);
        });
        long rate = before.sampleRateHz();
        // It springs back half a second after its last move, and 0.3 s later it is back; on a busy machine later.
        until(() -> reading(FADER) == stood);
        long[] back = new long[1];
        robot.interact(() -> back[0] = model().playhead());
        until(() -> model().playhead() > back[0] + rate);
        robot.interact(() -> model().transport().playOrStop());
        until(() -> !model().transport().playingProperty().get());
        Ride ride = Controls.ride(model().session(), FADER).orElseThrow();
        assertThat(ride.curve().at(moved[0] + rate / 4)).isCloseTo(FaderTravel.toDb(place - 0.2), within(0.15));
        assertThat(ride.curve().at(back[0] + rate * 9 / 10)).isCloseTo(stood, within(1e-9));
        robot.interact(() -> model().undo());
        assertThat(model().session()).isEqualTo(before);
    }
}
