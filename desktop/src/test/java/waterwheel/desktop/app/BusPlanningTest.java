package waterwheel.desktop.app;

import static org.assertj.core.api.Assertions.assertThat;

import java.util.List;
import javafx.scene.Node;
import javafx.scene.control.CheckBox;
import javafx.scene.control.MenuButton;
import javafx.scene.control.MenuItem;
import javafx.scene.control.TextField;
import javafx.scene.input.KeyCode;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;
import waterwheel.core.edit.Edit;
import waterwheel.core.session.Channel;
import waterwheel.core.session.Output;
import waterwheel.core.session.Session;
import waterwheel.desktop.frame.Step;

/** Submixes made from the tracks' names: looked through, changed, made in one step. */
class BusPlanningTest extends DrivenApplication {
    @BeforeEach
    void with_all_tracks_on_the_main_bus() {
        robot.interact(() -> {
            desk().window().show(Step.FLOW);
            Session session = model().session();
            model().edit(new Edit("Flat", flat -> {
                Session out = flat;
                for (Channel track : session.tracks()) {
                    out = out.withStrip(track.id(), s -> s.withOutput(Output.to(session.mainId())));
                }
                return out;
            }));
        });
        choose("More", "Propose buses from names…");
    }

    private MenuButton track(String name) {
        return shown(
                MenuButton.class,
                button -> button.getStyleClass().contains("planned-track")
                        && button.getText().equals(name));
    }

    private TextField name(String bus) {
        return shown(TextField.class, field -> field.getText().equals(bus));
    }

    private Node row(TextField name) {
        return name.getParent().getParent();
    }

    private List<String> feeding(String bus) {
        Session session = model().session();
        Channel found = session.buses().stream()
                .filter(one -> one.name().equals(bus))
                .findFirst()
                .orElseThrow();
        return session.channels().stream()
                .filter(one -> one.strip().output().equals(Output.to(found.id())))
                .map(Channel::name)
                .toList();
    }

    @Test
    void what_is_proposed_is_made_in_one_step_and_taken_back_in_one() {
        assertControlsAreNamed();
        robot.interact(() -> button("Make them").fire());
        // The demo has this bus already: it is fed, and not made twice.
        assertThat(feeding("Voices")).contains("Lead voice", "Backing voices");
        assertThat(feeding("Backing voices"))
                .containsExactly("Chorus voice 1", "Chorus voice 2", "Chorus voice 3", "Chorus voice 4");
        assertThat(feeding("Bass")).containsExactly("Double bass DI", "Double bass mic");
        robot.push(KeyCode.CONTROL, KeyCode.Z);
        assertThat(model().session().buses().stream().map(Channel::name)).doesNotContain("Backing voices", "Bass");
    }

    @Test
    void a_track_is_dragged_to_another_bus_and_a_bus_named_and_left_out() {
        drag(track("Hammered dulcimer"), row(name("Keys")));
        robot.interact(() -> name("Keys").requestFocus());
        robot.push(KeyCode.CONTROL, KeyCode.A);
        robot.write("Free reeds and hammers");
        robot.push(KeyCode.ENTER);
        CheckBox bass = shown(CheckBox.class, box -> "Make the bus Bass".equals(box.getAccessibleText()));
        robot.interact(bass::fire);
        robot.interact(() -> button("Make them").fire());
        assertThat(feeding("Free reeds and hammers")).contains("Hammered dulcimer", "Harmonium");
        assertThat(model().session().buses().stream().map(Channel::name)).doesNotContain("Bass");
        assertThat(feeding("Main")).contains("Double bass DI", "Double bass mic");
    }

    @Test
    void a_track_goes_to_a_bus_of_ones_own_by_the_keyboard_alone() {
        robot.interact(() -> button("Another bus").fire());
        robot.push(KeyCode.CONTROL, KeyCode.A);
        robot.write("Low end");
        robot.interact(() -> track("Stomp board").requestFocus());
        robot.push(KeyCode.SPACE);
        MenuItem to = track("Stomp board").getItems().stream()
                .filter(item -> item.getText().equals("To Low end"))
                .findFirst()
                .orElseThrow();
        robot.interact(to::fire);
        assertThat(track("Stomp board").isFocused())
                .as("the keyboard goes along")
                .isTrue();
        robot.interact(() -> button("Make them").fire());
        assertThat(feeding("Low end")).containsExactly("Stomp board");
    }

    @Test
    void names_stay_whole() {
        assertThat(name("Backing voices").getWidth()).isGreaterThan(140);
        assertThat(track("Hammered dulcimer").getWidth()).isGreaterThan(110);
    }
}
