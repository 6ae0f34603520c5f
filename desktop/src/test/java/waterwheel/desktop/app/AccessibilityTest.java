package waterwheel.desktop.app;

import static org.assertj.core.api.Assertions.assertThat;

import java.util.ArrayList;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Set;
import javafx.scene.AccessibleAttribute;
import javafx.scene.AccessibleRole;
import javafx.scene.Node;
import javafx.scene.Parent;
import javafx.scene.control.ScrollPane;
import org.junit.jupiter.api.DisplayNameGeneration;
import org.junit.jupiter.api.DisplayNameGenerator;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.EnumSource;
import waterwheel.desktop.frame.Step;

/** What a screen reader finds where the keyboard can go: what it is, and what it is called. */
@DisplayNameGeneration(DisplayNameGenerator.ReplaceUnderscores.class)
class AccessibilityTest extends DrivenApplication {
    /** A place that the keyboard reaches and a reader would be silent about. */
    private List<String> mute() {
        List<String> mute = new ArrayList<>();
        robot.interact(() -> look(laidOut(), mute));
        return mute;
    }

    private static void look(Node node, List<String> mute) {
        if (!node.isVisible()) {
            return;
        }
        if (node.isFocusTraversable() && !(node instanceof ScrollPane)) {
            AccessibleRole role = node.getAccessibleRole();
            Object said = node.queryAccessibleAttribute(AccessibleAttribute.TEXT);
            if (role == null || role == AccessibleRole.NODE || role == AccessibleRole.PARENT) {
                mute.add("no role: " + where(node));
            }
            if (said == null || said.toString().isBlank()) {
                mute.add("no name: " + where(node));
            }
        }
        if (node instanceof Parent parent) {
            parent.getChildrenUnmodifiable().forEach(child -> look(child, mute));
        }
    }

    @ParameterizedTest
    @EnumSource(Step.class)
    void every_place_of_a_view_says_what_it_is_and_what_it_is_called(Step step) throws Exception {
        show(step, false);
        awaitLevels();
        Set<String> distinct = new LinkedHashSet<>(mute());
        assertThat(distinct).isEmpty();
    }

    @Test
    void so_do_the_panels_under_the_view() throws Exception {
        show(Step.STAGING, false);
        awaitLevels();
        MainWindow window = desk().window();
        List<Runnable> panels = List.of(
                window::toggleClips,
                window::toggleControllers,
                window::toggleLoad,
                window::togglePrints,
                window::toggleAlike,
                window::toggleFindings,
                window::toggleMeters,
                window::toggleGuide,
                window::toggleFind);
        Set<String> distinct = new LinkedHashSet<>();
        for (Runnable panel : panels) {
            robot.interact(panel);
            distinct.addAll(mute());
            robot.interact(panel);
        }
        assertThat(distinct).isEmpty();
    }
}
