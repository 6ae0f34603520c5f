package waterwheel.desktop.app;

import static org.assertj.core.api.Assertions.assertThat;

import java.util.ArrayList;
import java.util.List;
import java.util.SplittableRandom;
import java.util.random.RandomGenerator;
import javafx.geometry.Bounds;
import javafx.scene.Node;
import javafx.scene.Parent;
import javafx.scene.Scene;
import javafx.scene.control.ChoiceBox;
import javafx.scene.control.Labeled;
import javafx.scene.control.Slider;
import javafx.scene.control.TextField;
import javafx.scene.control.ToggleButton;
import org.junit.jupiter.api.DisplayNameGeneration;
import org.junit.jupiter.api.DisplayNameGenerator;
import org.junit.jupiter.api.Test;
import waterwheel.core.edit.Edits;
import waterwheel.core.session.Channel;
import waterwheel.core.session.ChannelId;
import waterwheel.core.session.Track;
import waterwheel.core.units.LevelText;
import waterwheel.desktop.controls.DbField;
import waterwheel.desktop.frame.WorkLine;
import waterwheel.desktop.path.PathView;

/** The Path of one channel after the other. */
@DisplayNameGeneration(DisplayNameGenerator.ReplaceUnderscores.class)
class PathTest extends DrivenApplication {
    private Parent path() {
        return shown(Parent.class, node -> node instanceof PathView);
    }

    private DbField trim() {
        return robot.from(path())
                .lookup((Node node) -> node instanceof DbField && "Trim in dB".equals(node.getAccessibleText()))
                .query();
    }

    private ChannelId another() {
        return model().session().tracks().stream()
                .map(Track::id)
                .filter(id -> !id.equals(LEAD))
                .findFirst()
                .orElseThrow();
    }

    private double trimOf(ChannelId id) {
        return model().session().channel(id).strip().trimDb();
    }

    @Test
    void what_is_typed_and_not_taken_is_of_the_channel_that_it_was_typed_for() {
        ChannelId other = another();
        double others = trimOf(other);
        robot.interact(() -> model().select(LEAD));
        DbField typed = trim();
        robot.interact(typed::requestFocus);
        robot.interact(() -> typed.setText("-3.5"));
        robot.interact(() -> model().select(other));
        assertThat(trimOf(LEAD)).isEqualTo(-3.5);
        assertThat(trimOf(other)).isEqualTo(others);
        assertThat(trim().getText()).isEqualTo(LevelText.signed(others, 1, true) + " dB");
        // What is typed next is of the channel that is shown next.
        robot.interact(() -> {
            trim().requestFocus();
            trim().setText("-7");
            model().select(LEAD);
        });
        assertThat(trimOf(other)).isEqualTo(-7);
        assertThat(trimOf(LEAD)).isEqualTo(-3.5);
    }

    @Test
    void no_level_of_the_channel_before_is_shown_while_a_channel_is_measured() {
        robot.interact(() -> model().select(LEAD));
        String before = robot.from(path())
                .lookup((Node node) ->
                        node instanceof Labeled words && words.getText().startsWith("peak "))
                .queryLabeled()
                .getText();
        List<String> now = new ArrayList<>();
        robot.interact(() -> {
            Channel main = model().session().main();
            model().edit(Edits.trim(main, main.strip().trimDb() - 1));
            model().select(another());
            now.addAll(said(path()));
        });
        assertThat(before).contains("headroom");
        assertThat(now).noneMatch(words -> words.contains("headroom")).anyMatch(words -> words.contains("measuring"));
    }

    /** Rows that stay from channel to channel say just what rows say that are made for it. */
    @Test
    void whatever_was_shown_before_the_path_says_what_one_made_anew_says() {
        List<Channel> channels = new ArrayList<>(model().session().channels());
        RandomGenerator random = new SplittableRandom(11);
        for (int round = 0; round < 40; round++) {
            Channel chosen = channels.get(random.nextInt(channels.size()));
            robot.interact(() -> {
                model().select(chosen.id());
                PathView anew = new PathView(model(), new WorkLine(sentence -> {}), () -> {}, slot -> {}, () -> {});
                new Scene(anew).getRoot().applyCss();
                Bounds place = path().getLayoutBounds();
                anew.resize(place.getWidth(), place.getHeight());
                anew.layout();
                assertThat(said(path())).as(chosen.name()).isEqualTo(said(anew));
            });
        }
    }

    /** All that is to be read, in its order, and how controls stand. */
    private static List<String> said(Node node) {
        List<String> all = new ArrayList<>();
        collect(node, all);
        return all;
    }

    private static void collect(Node node, List<String> all) {
        if (!node.isVisible()) {
            return;
        }
        switch (node) {
            case ToggleButton button -> all.add(button.getText() + " " + button.isSelected());
            case Labeled words -> all.add(words.getText());
            case TextField field -> all.add(field.getText());
            case Slider slider -> all.add(String.valueOf(slider.getValue()));
            case ChoiceBox<?> box -> all.add(String.valueOf(box.getValue()));
            case Parent parent -> parent.getChildrenUnmodifiable().forEach(child -> collect(child, all));
            default -> {}
        }
    }
}
