package waterwheel.desktop.controls;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.within;

import java.util.List;
import javafx.geometry.Bounds;
import javafx.geometry.Pos;
import javafx.scene.Scene;
import javafx.scene.control.Button;
import javafx.scene.control.skin.TextFieldSkin;
import javafx.scene.input.KeyCode;
import javafx.scene.layout.HBox;
import javafx.scene.layout.VBox;
import javafx.scene.text.Font;
import javafx.scene.text.Text;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.DisplayNameGeneration;
import org.junit.jupiter.api.DisplayNameGenerator;
import org.junit.jupiter.api.Test;

/** A field that is a mere text until somebody comes to it. */
@DisplayNameGeneration(DisplayNameGenerator.ReplaceUnderscores.class)
class RestingFieldTest extends InAWindow {
    private final Button before = new Button("Before");
    private final RestingField field = new RestingField();

    @BeforeEach
    void show_a_field() {
        robot.interact(() -> {
            field.setText("-12.0 dB");
            showScene(new Scene(new VBox(before, new HBox(field)), 300, 200));
            before.requestFocus();
        });
    }

    private static boolean rests(RestingField field) {
        return !(field.getSkin() instanceof TextFieldSkin);
    }

    private Bounds drawn() {
        Text text = (Text) field.lookup(".text");
        return text.localToScene(text.getLayoutBounds());
    }

    @Test
    void rests_until_the_pointer_comes() {
        RestingField fresh = new RestingField();
        robot.moveTo(before);
        robot.interact(() -> {
            ((VBox) before.getParent()).getChildren().add(fresh);
            fresh.applyCss();
        });
        assertThat(rests(fresh)).isTrue();
        robot.moveTo(fresh);
        assertThat(rests(fresh)).isFalse();
    }

    @Test
    void is_chosen_whole_when_the_keyboard_comes_and_takes_what_is_typed() {
        robot.push(KeyCode.TAB);
        assertThat(rests(field)).isFalse();
        assertThat(field.getSelectedText()).isEqualTo("-12.0 dB");
        robot.push(KeyCode.DELETE);
        assertThat(field.getText()).isEmpty();
    }

    @Test
    void a_click_sets_the_caret_where_it_is_and_typing_goes_on_there() {
        robot.interact(() -> {
            Bounds text = drawn();
            robot.moveTo(field.localToScreen(field.sceneToLocal(text.getMaxX() + 3, text.getCenterY())));
        });
        robot.clickOn();
        robot.push(KeyCode.BACK_SPACE);
        assertThat(field.getText()).isEqualTo("-12.0 d");
    }

    /** Nothing may jump when the pointer passes. */
    @Test
    void its_text_and_its_size_stay_where_they_are_when_it_wakes() {
        for (Pos place : List.of(Pos.CENTER_LEFT, Pos.CENTER_RIGHT, Pos.CENTER, Pos.TOP_LEFT, Pos.BOTTOM_RIGHT)) {
            for (int size : List.of(11, 12, 13, 17)) {
                RestingField fresh = new RestingField();
                robot.interact(() -> {
                    fresh.setText("-12.0 dB");
                    fresh.setAlignment(place);
                    fresh.setFont(Font.font(size));
                    ((VBox) before.getParent()).getChildren().setAll(before, new HBox(fresh));
                    before.getScene().getRoot().applyCss();
                    before.getScene().getRoot().layout();
                    Bounds restingField = fresh.getBoundsInParent();
                    Text text = (Text) fresh.lookup(".text");
                    Bounds resting = text.localToScene(text.getLayoutBounds());
                    fresh.setSkin(new TextFieldSkin(fresh));
                    before.getScene().getRoot().applyCss();
                    before.getScene().getRoot().layout();
                    assertThat(fresh.lookupAll(".text")).as("one text").hasSize(1);
                    assertThat(fresh.lookup(".text")).isNotSameAs(text);
                    text = (Text) fresh.lookup(".text");
                    Bounds awake = text.localToScene(text.getLayoutBounds());
                    assertThat(resting.getMinX()).as("%s %d", place, size).isCloseTo(awake.getMinX(), within(0.01));
                    assertThat(resting.getMinY()).as("%s %d", place, size).isCloseTo(awake.getMinY(), within(0.01));
                    assertThat(restingField.getWidth())
                            .isCloseTo(fresh.getBoundsInParent().getWidth(), within(0.01));
                    assertThat(restingField.getHeight())
                            .isCloseTo(fresh.getBoundsInParent().getHeight(), within(0.01));
                });
            }
        }
    }
}
