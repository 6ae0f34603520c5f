package waterwheel.desktop.app;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.within;

import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.List;
import java.util.Objects;
import javafx.event.Event;
import javafx.event.EventType;
import javafx.geometry.Point2D;
import javafx.scene.Node;
import javafx.scene.control.Label;
import javafx.scene.control.MenuButton;
import javafx.scene.control.MenuItem;
import javafx.scene.control.TextField;
import javafx.scene.control.ToggleButton;
import javafx.scene.input.ContextMenuEvent;
import javafx.scene.input.KeyCode;
import javafx.scene.input.KeyEvent;
import javafx.scene.input.MouseButton;
import javafx.scene.input.MouseEvent;
import javafx.scene.layout.Region;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.DisplayNameGeneration;
import org.junit.jupiter.api.DisplayNameGenerator;
import org.junit.jupiter.api.Test;
import waterwheel.core.edit.Edit;
import waterwheel.core.edit.RideEdits;
import waterwheel.core.path.Stage;
import waterwheel.core.rides.Curve;
import waterwheel.core.rides.CurvePoint;
import waterwheel.core.rides.Ride;
import waterwheel.core.session.ChannelId;
import waterwheel.core.session.ControlId;
import waterwheel.core.session.Controls;
import waterwheel.core.session.Session;
import waterwheel.desktop.controls.Fader;
import waterwheel.desktop.frame.Step;
import waterwheel.desktop.rides.RidesView;
import waterwheel.desktop.testing.Mouse;

/** What is done to rides with mouse and keys: each gesture is one step, and undone by one. */
@DisplayNameGeneration(DisplayNameGenerator.ReplaceUnderscores.class)
class RidesViewTest extends DrivenApplication {
    private static final ChannelId WHISTLE = new ChannelId("low-whistle");
    private static final ControlId FADER = ControlId.ofStrip(WHISTLE, "faderDb");

    private Session before;

    @BeforeEach
    void the_whistle_in_the_view_of_rides() {
        robot.interact(() -> {
            model().select(WHISTLE);
            model().transport().seek(0);
            desk().window().show(Step.RIDES);
        });
        before = model().session();
    }

    private Node view() {
        return Objects.requireNonNull(desk().window().view(Step.RIDES));
    }

    private void pick(String menu, String item) {
        MenuButton button = robot.from(view()).lookup(".menu-button").queryAllAs(MenuButton.class).stream()
                .filter(b -> b.getText().equals(menu))
                .findFirst()
                .orElseThrow();
        robot.interact(() -> {
            button.show();
            button.getItems().stream()
                    .filter(i -> i.getText().equals(item))
                    .findFirst()
                    .map(MenuItem.class::cast)
                    .orElseThrow()
                    .fire();
            button.hide();
        });
    }

    private Region picture() {
        return robot.from(view()).lookup(".lane-picture").queryAllAs(Region.class).stream()
                .filter(DrivenApplication::visible)
                .findFirst()
                .orElseThrow();
    }

    /** A mouse event at parts of a lane's width and height. */
    private static void fire(Node node, EventType<MouseEvent> type, double across, double down, int clicks) {
        Point2D at = new Point2D(
                across * node.getBoundsInLocal().getWidth(),
                down * node.getBoundsInLocal().getHeight());
        Point2D scene = node.localToScene(at);
        Mouse.fire(node, type, scene.getX(), scene.getY(), MouseButton.PRIMARY, clicks);
    }

    private void key(KeyCode code, boolean shift, boolean shortcut) {
        robot.interact(() -> Event.fireEvent(
                picture(), new KeyEvent(KeyEvent.KEY_PRESSED, "", "", code, shift, shortcut, false, false)));
    }

    private List<CurvePoint> points() {
        return Controls.ride(model().session(), FADER)
                .map(ride -> ride.curve().points())
                .orElse(List.of());
    }

    private void assertOneStep(Session from) {
        Session after = model().session();
        assertThat(after).isNotEqualTo(from);
        robot.interact(() -> model().undo());
        assertThat(model().session()).isEqualTo(from);
        robot.interact(() -> model().redo());
        assertThat(model().session()).isEqualTo(after);
    }

    private void ride() {
        pick("Ride a control", "Fader");
        robot.interact(() -> view().getParent().layout());
    }

    @Test
    void a_control_gets_a_lane_that_begins_where_it_stands() {
        robot.interact(
                () -> assertThat(robot.from(view()).lookup(".lane-picture").queryAll())
                        .isEmpty());
        ride();
        assertThat(points())
                .containsExactly(
                        new CurvePoint(0, before.channel(WHISTLE).strip().faderDb(), CurvePoint.Shape.LINE));
        assertThat(picture()).isNotNull();
        assertOneStep(before);
    }

    @Test
    void points_are_added_dragged_and_moved_by_keys() {
        ride();
        Session ridden = model().session();
        long length = ridden.lengthFrames();
        robot.interact(() -> {
            fire(picture(), MouseEvent.MOUSE_PRESSED, 0.5, 0.5, 2);
            fire(picture(), MouseEvent.MOUSE_DRAGGED, 0.6, 0.2, 1);
            fire(picture(), MouseEvent.MOUSE_RELEASED, 0.6, 0.2, 1);
        });
        assertThat(points()).hasSize(2);
        assertThat((double) points().getLast().frame() / length).isCloseTo(0.6, within(0.01));
        assertThat(points().getLast().value()).isPositive();
        assertOneStep(ridden);
        double value = points().getLast().value();
        long frame = points().getLast().frame();
        key(KeyCode.DOWN, false, false);
        assertThat(points().getLast().value()).isCloseTo(value - 0.1, within(1e-9));
        key(KeyCode.RIGHT, true, false);
        assertThat(points().getLast().frame()).isEqualTo(frame + 4_800);
        key(KeyCode.H, false, false);
        assertThat(points().getLast().shape()).isEqualTo(CurvePoint.Shape.HOLD);
        key(KeyCode.LEFT, false, true);
        key(KeyCode.UP, true, false);
        assertThat(points().getFirst().value())
                .isCloseTo(before.channel(WHISTLE).strip().faderDb() + 1, within(1e-9));
        key(KeyCode.RIGHT, false, true);
        key(KeyCode.DELETE, false, false);
        assertThat(points()).hasSize(1);
    }

    @Test
    void a_curve_drawn_by_hand_is_thinned_and_one_step() {
        ride();
        Session ridden = model().session();
        ToggleButton draw = robot.from(view()).lookup(".toggle-button").queryAllAs(ToggleButton.class).stream()
                .filter(b -> b.getText().equals("Draw"))
                .findFirst()
                .orElseThrow();
        robot.interact(draw::fire);
        robot.interact(() -> {
            fire(picture(), MouseEvent.MOUSE_PRESSED, 0.3, 0.8, 1);
            for (int i = 1; i <= 60; i++) {
                fire(picture(), MouseEvent.MOUSE_DRAGGED, 0.3 + i * 0.005, 0.8 - i * 0.01, 1);
            }
            fire(picture(), MouseEvent.MOUSE_RELEASED, 0.6, 0.2, 1);
        });
        robot.interact(draw::fire);
        // A line on the fader's travel bends in dB, so some points are needed, but not one a pixel.
        assertThat(points()).hasSizeBetween(4, 40);
        Ride drawn = Controls.ride(model().session(), FADER).orElseThrow();
        long length = ridden.lengthFrames();
        assertThat(drawn.curve().at(Math.round(0.2 * length)))
                .isEqualTo(before.channel(WHISTLE).strip().faderDb());
        assertThat(drawn.curve().at(Math.round(0.35 * length))).isLessThan(-20);
        assertOneStep(ridden);
    }

    @Test
    void a_stretch_is_chosen_over_all_lanes_and_copied_to_another_section() {
        ride();
        robot.interact(() -> {
            fire(picture(), MouseEvent.MOUSE_PRESSED, 0.5, 0.5, 2);
            fire(picture(), MouseEvent.MOUSE_RELEASED, 0.5, 0.5, 1);
        });
        robot.interact(() -> {
            fire(picture(), MouseEvent.MOUSE_PRESSED, 0.45, 0.95, 1);
            fire(picture(), MouseEvent.MOUSE_DRAGGED, 0.55, 0.95, 1);
            fire(picture(), MouseEvent.MOUSE_RELEASED, 0.55, 0.95, 1);
        });
        Session chosen = model().session();
        pick("Copy to", "Section Intro");
        Ride ride = Controls.ride(model().session(), FADER).orElseThrow();
        long intro = chosen.sections().get(1).startFrames();
        long from = Math.round(0.45 * chosen.lengthFrames());
        long middle = Math.round(0.05 * chosen.lengthFrames());
        assertThat(ride.curve().at(intro + middle))
                .isCloseTo(Controls.ride(chosen, FADER).orElseThrow().curve().at(from + middle), within(1.0));
        assertOneStep(chosen);
    }

    @Test
    void a_ridden_fader_is_marked_reads_along_and_moves_its_offset_by_hand() throws Exception {
        ride();
        robot.interact(() -> {
            fire(picture(), MouseEvent.MOUSE_PRESSED, 0.5, 0.7, 2);
            fire(picture(), MouseEvent.MOUSE_RELEASED, 0.5, 0.7, 1);
        });
        Session ridden = model().session();
        Fader fader = robot.from(desk().window()).lookup(".fader").queryAllAs(Fader.class).stream()
                .filter(f -> "Fader".equals(f.getAccessibleText()) && visible(f))
                .findFirst()
                .orElseThrow();
        assertThat(fader.getPseudoClassStates())
                .anyMatch(s -> s.getPseudoClassName().equals("ridden"));
        double here = fader.getValue();
        robot.interact(() -> model().transport().seek(0.5 * ridden.lengthFrames() / ridden.sampleRateHz()));
        until(() -> fader.getValue() < here - 0.05);
        robot.interact(() -> Event.fireEvent(
                fader, new KeyEvent(KeyEvent.KEY_PRESSED, "", "", KeyCode.LEFT, false, false, false, false)));
        Ride moved = Controls.ride(model().session(), FADER).orElseThrow();
        assertThat(moved.curve())
                .isEqualTo(Controls.ride(ridden, FADER).orElseThrow().curve());
        assertThat(moved.offset()).isCloseTo(-0.1, within(0.051));
        robot.interact(() -> Event.fireEvent(
                fader, new ContextMenuEvent(ContextMenuEvent.CONTEXT_MENU_REQUESTED, 600, 300, 600, 300, false, null)));
        MenuItem item = fader.getContextMenu().getItems().getFirst();
        assertThat(fader.getContextMenu().isShowing()).isTrue();
        assertThat(item.getText()).isEqualTo("Stop riding this");
        robot.interact(() -> {
            fader.getContextMenu().hide();
            item.fire();
        });
        assertThat(Controls.ride(model().session(), FADER)).isEmpty();
    }

    @Test
    void what_is_suspended_waits() {
        ride();
        Session ridden = model().session();
        ToggleButton suspend = robot.from(view()).lookup(".toggle-button").queryAllAs(ToggleButton.class).stream()
                .filter(b -> b.getText().equals("Suspend") && visible(b))
                .findFirst()
                .orElseThrow();
        robot.interact(suspend::fire);
        assertThat(Controls.ride(model().session(), FADER).orElseThrow().active())
                .isFalse();
        assertOneStep(ridden);
    }

    @Test
    void the_levels_follow_the_curve_everywhere() throws Exception {
        ride();
        awaitLevels();
        double peak = model().levels().of(WHISTLE).orElseThrow().at(Stage.FADER).samplePeakDbfs();
        robot.interact(() -> model().edit(RideEdits.point(
                model().session(), FADER, new CurvePoint(0, points().getFirst().value() - 9, CurvePoint.Shape.LINE))));
        awaitLevels();
        assertThat(model().levels().of(WHISTLE).orElseThrow().at(Stage.FADER).samplePeakDbfs())
                .isCloseTo(peak - 9, within(0.01));
        List<String> texts = robot.from(view()).lookup(".label").queryAllAs(Label.class).stream()
                .filter(DrivenApplication::visible)
                .map(Label::getText)
                .toList();
        assertThat(texts).contains("Rides of Low whistle");
    }

    @Test
    void a_fader_that_is_held_while_the_song_plays_is_recorded_in_one_step() throws Exception {
        robot.interact(() -> {
            model().rideTakes().recordingProperty().set(true);
            model().transport().seek(30);
            model().transport().playOrStop();
        });
        until(() -> model().transport().secondsProperty().get() > 30.2);
        Fader fader = robot.from(desk().window()).lookup(".fader").queryAllAs(Fader.class).stream()
                .filter(f -> "Fader".equals(f.getAccessibleText()) && visible(f))
                .findFirst()
                .orElseThrow();
        double rest = before.channel(WHISTLE).strip().faderDb();
        long[] grabbed = new long[1];
        robot.interact(() -> {
            grabbed[0] = model().playhead();
            fader.setValue(0.4);
        });
        int rate = before.sampleRateHz();
        until(() -> model().playhead() > grabbed[0] + rate / 2);
        robot.interact(() -> fire(fader, MouseEvent.MOUSE_RELEASED, 0.4, 0.5, 1));
        long[] released = new long[1];
        robot.interact(() -> released[0] = model().playhead());
        until(() -> model().playhead() > released[0] + rate);
        robot.interact(() -> model().transport().playOrStop());
        until(() -> !model().transport().playingProperty().get());
        robot.interact(() -> model().rideTakes().recordingProperty().set(false));
        Ride ride = Controls.ride(model().session(), FADER).orElseThrow();
        assertThat(ride.offset()).isZero();
        assertThat(ride.curve().at(29L * rate)).isEqualTo(rest);
        assertThat(ride.curve().at(grabbed[0] + rate / 4)).isCloseTo(-21.8, within(0.2));
        assertThat(ride.curve().at(released[0] + rate * 9 / 10)).isCloseTo(rest, within(1e-9));
        robot.interact(() -> model().undo());
        assertThat(model().session()).isEqualTo(before);
    }

    @Test
    void a_section_is_chosen_by_key_and_shifted_and_only_there() {
        ride();
        key(KeyCode.LEFT, false, true);
        robot.interact(() -> {
            fire(picture(), MouseEvent.MOUSE_PRESSED, 0.6, 0.5, 2);
            fire(picture(), MouseEvent.MOUSE_RELEASED, 0.6, 0.5, 1);
        });
        long at = points().getLast().frame();
        key(KeyCode.R, false, false);
        Session ridden = model().session();
        TextField shift = robot.from(view()).lookup(".db-field").queryAllAs(TextField.class).stream()
                .filter(f -> visible(f) && f.getAccessibleText().startsWith("Move what is written"))
                .findFirst()
                .orElseThrow();
        robot.interact(() -> {
            shift.requestFocus();
            shift.setText("-3");
            Event.fireEvent(
                    shift, new KeyEvent(KeyEvent.KEY_PRESSED, "", "", KeyCode.ENTER, false, false, false, false));
        });
        double before = Controls.ride(ridden, FADER).orElseThrow().curve().at(at);
        Ride after = Controls.ride(model().session(), FADER).orElseThrow();
        assertThat(after.curve().at(at)).isCloseTo(before - 3, within(1e-6));
        assertThat(after.curve().at(0))
                .isEqualTo(Controls.ride(ridden, FADER).orElseThrow().curve().at(0));
        assertOneStep(ridden);
    }

    private boolean proposed() {
        return robot.from(view()).lookup(".ride-ghost").queryAll().stream().anyMatch(DrivenApplication::visible);
    }

    @Test
    void room_is_seen_before_it_is_made_and_told_by_section() throws Exception {
        pick("Make room for", "Lead voice");
        until(this::proposed);
        assertThat(model().session()).isEqualTo(before);
        List<String> told = texts().toList();
        assertThat(told).anyMatch(t -> t.startsWith("Lead voice over the rest, LU: ") && t.contains("Chorus"));
        robot.interact(() -> button("Discard").fire());
        assertThat(proposed()).isFalse();
        assertThat(model().session()).isEqualTo(before);
        pick("Make room for", "Lead voice");
        until(this::proposed);
        robot.interact(() -> button("Accept").fire());
        assertThat(proposed()).isFalse();
        assertThat(Controls.ride(model().session(), FADER)
                        .orElseThrow()
                        .offsetCurve()
                        .points())
                .hasSizeGreaterThan(3);
        assertOneStep(before);
    }

    @Test
    void a_level_is_held_once_it_leaves_its_range() throws Exception {
        robot.interact(() -> button("Hold level").fire());
        until(() -> texts().anyMatch(t -> t.startsWith("No phrase of Low whistle lies further than 2.0 LU")));
        assertThat(button("Accept").isDisabled()).isTrue();
        long rate = before.sampleRateHz();
        // Loud and soft by turns, wherever it plays.
        List<CurvePoint> turns = new ArrayList<>();
        for (int i = 0; i < 8; i++) {
            turns.add(new CurvePoint(14L * i * rate, i % 2 == 0 ? -9 : 0, CurvePoint.Shape.HOLD));
        }
        Ride low = Controls.still(before, FADER).withCurve(new Curve(turns));
        robot.interact(() -> model().edit(new Edit("Low", s -> Controls.with(s, FADER, low))));
        assertThat(robot.from(view()).lookup(".proposal-bar").queryAll().stream()
                        .anyMatch(DrivenApplication::visible))
                .isFalse();
        Session ridden = model().session();
        robot.interact(() -> button("Hold level").fire());
        until(this::proposed);
        robot.interact(() -> button("Accept").fire());
        assertThat(points()).hasSizeGreaterThan(2);
        assertOneStep(ridden);
    }

    private double[] readings(ControlId id, long... frames) {
        return Arrays.stream(frames)
                .mapToDouble(frame -> Controls.reading(model().session(), id, frame))
                .toArray();
    }

    @Test
    void a_mute_is_recorded_from_click_to_click() throws Exception {
        ControlId mute = ControlId.ofStrip(WHISTLE, "muted");
        robot.interact(() -> {
            desk().window().show(Step.BLEND);
            model().rideTakes().recordingProperty().set(true);
            model().transport().seek(30);
            model().transport().playOrStop();
        });
        until(() -> model().transport().secondsProperty().get() > 30.2);
        ToggleButton button = (ToggleButton) lane("Low whistle").lookup(".toggle-button.mute");
        long[] clicked = new long[2];
        robot.interact(() -> {
            clicked[0] = model().playhead();
            button.fire();
        });
        assertThat(Controls.reading(model().session(), mute, model().playhead()))
                .isEqualTo(1);
        until(() -> model().playhead() > clicked[0] + before.sampleRateHz() / 2);
        robot.interact(() -> {
            clicked[1] = model().playhead();
            button.fire();
        });
        until(() -> model().playhead() > clicked[1] + before.sampleRateHz() / 2);
        robot.interact(() -> model().transport().playOrStop());
        until(() -> !model().transport().playingProperty().get());
        robot.interact(() -> model().rideTakes().recordingProperty().set(false));
        int rate = before.sampleRateHz();
        assertThat(readings(mute, clicked[0] - rate, (clicked[0] + clicked[1]) / 2, clicked[1] + rate / 4, 60L * rate))
                .containsExactly(0.0, 1.0, 0.0, 0.0);
        // By hand it does not move without being recorded, and says why.
        Session ridden = model().session();
        robot.interact(button::fire);
        assertThat(model().session()).isEqualTo(ridden);
        assertThat(button.isSelected()).isEqualTo(Controls.reading(ridden, mute, model().playhead()) >= 0.5);
        assertThat(texts()).anyMatch(t -> t.contains("Mute of Low whistle is ridden"));
        robot.interact(() -> model().undo());
        assertThat(model().session()).isEqualTo(before);
    }

    @Test
    void curves_go_out_to_a_file_and_come_back_in_one_step() throws Exception {
        ride();
        Session ridden = model().session();
        Path file = shared.resolve("curves.csv");
        robot.interact(() -> ((RidesView) view()).write(file));
        assertThat(texts()).contains("The curves are in " + file + ".");
        robot.interact(() -> model().edit(RideEdits.remove(model().session(), FADER)));
        Session bare = model().session();
        robot.interact(() -> ((RidesView) view()).read(file));
        assertThat(model().session()).isEqualTo(ridden);
        assertOneStep(bare);
        Files.writeString(file, "notes");
        robot.interact(() -> ((RidesView) view()).read(file));
        assertThat(model().session()).isEqualTo(ridden);
        assertThat(texts()).anyMatch(t -> t.contains("does not begin with the columns of rides"));
    }
}
