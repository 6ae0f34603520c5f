package waterwheel.desktop.controls;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.within;

import java.util.ArrayList;
import java.util.List;
import java.util.Objects;
import javafx.scene.Node;
import javafx.scene.Scene;
import javafx.scene.control.Button;
import javafx.scene.input.KeyCode;
import javafx.scene.input.MouseButton;
import javafx.scene.input.MouseEvent;
import javafx.scene.layout.Region;
import javafx.scene.layout.VBox;
import org.jspecify.annotations.Nullable;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.DisplayNameGeneration;
import org.junit.jupiter.api.DisplayNameGenerator;
import org.junit.jupiter.api.Nested;
import org.junit.jupiter.api.Test;
import waterwheel.desktop.testing.Mouse;

/** The controls that values are set by, each alone in a window. */
@DisplayNameGeneration(DisplayNameGenerator.ReplaceUnderscores.class)
class ControlsTest extends InAWindow {
    private final List<Double> sent = new ArrayList<>();
    private final Button other = new Button("Elsewhere");

    private void show(Node control) {
        robot.interact(() -> {
            showScene(new Scene(new VBox(control, other), 300, 80));
            control.requestFocus();
        });
    }

    @Nested
    class A_field_for_dB {
        private @Nullable DbField made;

        @BeforeEach
        void show_minus_six() {
            robot.interact(() -> {
                made = new DbField("Trim", value -> {
                    sent.add(value);
                    field().setValue(value);
                });
                field().setValue(-6);
            });
            show(field());
        }

        private DbField field() {
            return Objects.requireNonNull(made);
        }

        @Test
        void shows_sign_and_unit_and_two_decimals_only_where_they_say_something() {
            assertThat(field().getText()).isEqualTo("−6.0 dB");
            robot.interact(() -> field().setValue(0.25));
            assertThat(field().getText()).isEqualTo("+0.25 dB");
            robot.interact(() -> field().setValue(Double.NEGATIVE_INFINITY));
            assertThat(field().getText()).isEqualTo("−inf dB");
        }

        @Test
        void steps_by_a_tenth_and_with_Shift_by_one() {
            robot.push(KeyCode.UP);
            robot.push(KeyCode.SHIFT, KeyCode.DOWN);
            assertThat(sent).containsExactly(-5.9, -6.9);
        }

        @Test
        void takes_what_was_typed_by_Enter() {
            robot.interact(() -> field().setText("-3,25"));
            robot.push(KeyCode.ENTER);
            assertThat(sent).containsExactly(-3.25);
        }

        @Test
        void takes_what_was_typed_when_the_focus_leaves() {
            robot.interact(() -> field().setText("2"));
            robot.interact(other::requestFocus);
            assertThat(sent).containsExactly(2.0);
        }

        @Test
        void puts_the_value_back_by_Escape_and_after_nonsense() {
            robot.interact(() -> field().setText("7"));
            robot.push(KeyCode.ESCAPE);
            assertThat(field().getText()).isEqualTo("−6.0 dB");
            robot.interact(() -> field().setText("loud"));
            robot.push(KeyCode.ENTER);
            assertThat(field().getText()).isEqualTo("−6.0 dB");
            assertThat(sent).isEmpty();
        }

        @Test
        void sends_nothing_when_nothing_changed() {
            robot.push(KeyCode.ENTER);
            robot.interact(other::requestFocus);
            assertThat(sent).isEmpty();
        }
    }

    @Nested
    class A_fader {
        private final List<String> gestures = new ArrayList<>();
        private @Nullable Fader made;

        @BeforeEach
        void show_unity() {
            robot.interact(() -> {
                made = new Fader("Fader", Fader.Travel.FADER, 0.1, 0, (value, gesture) -> {
                    sent.add(value);
                    gestures.add(gesture);
                    fader().show(value);
                });
                fader().show(0);
            });
            show(fader());
        }

        private Fader fader() {
            return Objects.requireNonNull(made);
        }

        @Test
        void unity_is_at_three_quarters_of_its_travel() {
            assertThat(fader().getValue()).isCloseTo(0.75, within(0.01));
            assertThat(sent).as("showing is not setting").isEmpty();
        }

        @Test
        void arrow_keys_step_by_a_tenth_and_with_Shift_by_one() {
            robot.push(KeyCode.LEFT);
            robot.push(KeyCode.SHIFT, KeyCode.RIGHT);
            assertThat(sent.get(0)).isCloseTo(-0.1, within(1e-9));
            assertThat(sent.get(1)).isCloseTo(0.9, within(1e-9));
            assertThat(gestures).as("each key is a step of its own").containsOnly("");
        }

        @Test
        void Delete_puts_it_back_to_its_rest() {
            robot.push(KeyCode.SHIFT, KeyCode.LEFT);
            robot.push(KeyCode.DELETE);
            assertThat(sent).endsWith(0.0);
        }

        @Test
        void all_the_way_to_the_left_is_silence() {
            robot.interact(() -> fader().setValue(0));
            assertThat(sent).containsExactly(Double.NEGATIVE_INFINITY);
            robot.push(KeyCode.RIGHT);
            assertThat(sent.getLast()).as("and an arrow leads out of it").isCloseTo(-89.9, within(1e-6));
        }

        @Test
        void a_press_begins_a_gesture_that_its_movements_share() {
            robot.moveTo(fader()).moveBy(-40, 0).press(MouseButton.PRIMARY);
            robot.interact(() -> fader().setValue(0.6));
            robot.release(MouseButton.PRIMARY);
            assertThat(gestures.stream().distinct()).singleElement().asString().startsWith("drag");
            robot.interact(() -> fader().setValue(0.5));
            assertThat(gestures.getLast()).as("after the release").isEmpty();
        }
    }

    @Nested
    class A_placement {
        private static final double WIDTH = 210;
        private final List<String> moves = new ArrayList<>();
        private @Nullable PlaceBar made;
        private double at;
        private double across = 1;

        @BeforeEach
        void show_both_sides_as_recorded() {
            robot.interact(() -> {
                made = new PlaceBar(
                        "Room",
                        true,
                        (value, gesture) -> {
                            at = value;
                            moves.add(gesture);
                            bar().show(at, across, false, false);
                        },
                        (value, gesture) -> {
                            across = value;
                            moves.add(gesture);
                            bar().show(at, across, false, false);
                        });
                bar().setMinWidth(WIDTH);
                bar().setMaxWidth(WIDTH);
                bar().show(0, 1, false, false);
            });
            show(bar());
        }

        private PlaceBar bar() {
            return Objects.requireNonNull(made);
        }

        /** Where a position is on the bar: 5 pixels at both ends are margin. */
        private double x(double position) {
            return 5 + (position + 1) / 2 * (WIDTH - 10);
        }

        private void drag(double from, double to) {
            robot.interact(() -> {
                for (var type :
                        List.of(MouseEvent.MOUSE_PRESSED, MouseEvent.MOUSE_DRAGGED, MouseEvent.MOUSE_RELEASED)) {
                    double x = type == MouseEvent.MOUSE_PRESSED ? x(from) : x(to);
                    Mouse.fire(bar(), type, x, 7);
                }
            });
        }

        private Region span() {
            return (Region) Objects.requireNonNull(bar().lookup(".span"));
        }

        @Test
        void the_stretch_is_what_its_two_sides_fill() {
            robot.interact(() -> {
                bar().show(0.25, 0.5, false, false);
                bar().layout();
            });
            assertThat(span().getLayoutX()).isCloseTo(x(-0.25), within(2.0));
            assertThat(span().getLayoutX() + span().getWidth()).isCloseTo(x(0.75), within(2.0));
        }

        @Test
        void dragging_moves_it_by_as_much_and_an_end_widens_it() {
            drag(0.2, 0.5);
            assertThat(at).isCloseTo(0.3, within(1e-9));
            assertThat(across).isEqualTo(1);
            at = 0;
            across = 0.5;
            robot.interact(() -> bar().show(at, across, false, false));
            drag(0.5, 0.8);
            assertThat(across).isCloseTo(0.8, within(1e-9));
            drag(-0.8, -0.1);
            assertThat(across).isCloseTo(0.1, within(1e-9));
            assertThat(at).isZero();
            assertThat(moves.stream().distinct()).as("a gesture each").hasSize(3);
        }

        @Test
        void keys_move_widen_and_put_it_back() {
            robot.push(KeyCode.SHIFT, KeyCode.LEFT);
            robot.push(KeyCode.RIGHT);
            assertThat(at).isCloseTo(-0.09, within(1e-9));
            robot.push(KeyCode.SHIFT, KeyCode.UP);
            robot.push(KeyCode.DOWN);
            assertThat(across).isCloseTo(1.09, within(1e-9));
            robot.push(KeyCode.DELETE);
            assertThat(at).isZero();
            assertThat(across).isEqualTo(1);
        }
    }

    @Nested
    class A_placement_in_words {
        private String read(String typed) {
            return PlaceText.parse(typed)
                    .map(place -> (place.position().isPresent()
                                    ? PlaceText.of(place.position().getAsDouble(), 1, false)
                                    : "as it is")
                            + (place.width().isPresent()
                                    ? ", " + Math.round(100 * place.width().getAsDouble())
                                    : ""))
                    .orElse("nonsense");
        }

        @Test
        void is_read_as_it_is_shown_and_as_hands_type_it() {
            assertThat(read("left 40 %")).isEqualTo("left 40 %");
            assertThat(read("l40")).isEqualTo("left 40 %");
            assertThat(read("-40")).isEqualTo("left 40 %");
            assertThat(read("R 15, 80")).isEqualTo("right 15 %, 80");
            assertThat(read("centre, 140 %")).isEqualTo("centre, 140");
            assertThat(read("c")).isEqualTo("centre");
            assertThat(read("left")).isEqualTo("left 100 %");
            assertThat(read("80 wide")).isEqualTo("as it is, 80");
            assertThat(read("right 900")).as("as far as it goes").isEqualTo("right 100 %");
        }

        @Test
        void is_refused_where_it_is_none() {
            for (String typed : List.of("", "loud", "left right", "c 40", "40, wide, 3", "12,x")) {
                assertThat(read(typed)).as(typed).isEqualTo("nonsense");
            }
        }

        @Test
        void what_is_shown_is_read_as_the_same() {
            for (int position = -100; position <= 100; position += 7) {
                for (int width = 0; width <= 200; width += 25) {
                    String shown = PlaceText.of(position / 100.0, width / 100.0, true);
                    PlaceText again = PlaceText.parse(shown).orElseThrow();
                    assertThat(again.position().orElseThrow()).isCloseTo(position / 100.0, within(1e-9));
                    assertThat(again.width().orElseThrow()).isCloseTo(width / 100.0, within(1e-9));
                }
            }
        }
    }
}
