package waterwheel.desktop.app;

import java.util.ArrayList;
import java.util.Arrays;
import java.util.List;
import java.util.Map;
import java.util.Objects;
import java.util.Optional;
import java.util.function.Predicate;
import java.util.stream.Stream;
import javafx.scene.Node;
import javafx.scene.control.ButtonBase;
import javafx.scene.control.ChoiceBox;
import javafx.scene.control.Labeled;
import javafx.scene.control.MenuButton;
import javafx.scene.control.MenuItem;
import javafx.scene.control.ScrollPane;
import javafx.scene.input.KeyCode;
import org.commonmark.node.Code;
import org.commonmark.node.OrderedList;
import org.commonmark.node.StrongEmphasis;
import org.commonmark.node.Text;
import org.jspecify.annotations.Nullable;
import waterwheel.desktop.controls.Sight;
import waterwheel.desktop.guide.Guide;

/** Does what the guide's steps say, with mouse and keys, by the names that are on the screen. */
final class GuidedHand {
    private static final Map<String, KeyCode> KEYS = Map.of(
            "Ctrl", KeyCode.CONTROL,
            "Shift", KeyCode.SHIFT,
            "Alt", KeyCode.ALT,
            "Enter", KeyCode.ENTER,
            "Tab", KeyCode.TAB,
            "Down", KeyCode.DOWN,
            "Up", KeyCode.UP);

    private final DrivenApplication application;

    GuidedHand(DrivenApplication application) {
        this.application = application;
    }

    /**
     * One thing to do.
     *
     * @param onScreen whether it is a name on the screen to click or choose; keys or letters otherwise
     */
    record Gesture(boolean onScreen, String words) {}

    /** What the steps say in front of their colons, in order. */
    static List<Gesture> gestures(OrderedList steps) {
        List<Gesture> gestures = new ArrayList<>();
        for (org.commonmark.node.Node step : Guide.children(steps)) {
            for (org.commonmark.node.Node part : Guide.children(step.getFirstChild())) {
                switch (part) {
                    case Code code -> gestures.add(new Gesture(false, code.getLiteral()));
                    case StrongEmphasis name -> gestures.add(new Gesture(true, Guide.plain(name)));
                    default -> {}
                }
                if (part instanceof Text text && text.getLiteral().contains(":")) {
                    break;
                }
            }
        }
        return gestures;
    }

    void perform(Gesture gesture) throws Exception {
        if (!gesture.onScreen()) {
            keysOrLetters(gesture.words());
        } else if (gesture.words().contains(" › ")) {
            String[] both = gesture.words().split(" › ", 2);
            choose(both[0], both[1]);
        } else {
            click(gesture.words());
        }
    }

    private void keysOrLetters(String words) {
        List<Optional<KeyCode>> keys =
                Arrays.stream(words.split("\\+")).map(GuidedHand::key).toList();
        if (keys.stream().allMatch(Optional::isPresent)) {
            application.robot.push(keys.stream().map(Optional::get).toArray(KeyCode[]::new));
        } else {
            application.robot.write(words);
        }
    }

    /** A key by its name; a digit is one only behind Ctrl, and a letter by itself. */
    private static Optional<KeyCode> key(String name) {
        if (name.matches("[A-Z0-9]")) {
            return Optional.of(KeyCode.getKeyCode(name));
        }
        return Optional.ofNullable(KEYS.get(name));
    }

    private void click(String name) throws Exception {
        Predicate<Node> usable = node -> !node.isDisabled();
        application.until(() -> find(name, usable).isPresent());
        Node found = find(name, usable).orElseThrow();
        application.robot.interact(() -> scrollTo(found));
        application.robot.clickOn(found);
    }

    /** What somebody does with the wheel before they click. */
    private static void scrollTo(Node node) {
        for (Node at = node; at != null; at = at.getParent()) {
            if (at instanceof ScrollPane scroll) {
                Sight.bring(scroll, node);
            }
        }
    }

    private void choose(String from, String item) throws Exception {
        Predicate<Node> opens = node -> node instanceof MenuButton || node instanceof ChoiceBox;
        application.until(() -> find(from, opens).isPresent());
        Node node = find(from, opens).orElseThrow();
        application.robot.interact(() -> {
            node.requestFocus();
            if (node instanceof MenuButton menu) {
                menu.show();
                MenuItem wanted = menu.getItems().stream()
                        .filter(one -> calls(String.valueOf(one.getText()), item))
                        .findFirst()
                        .orElseThrow(() -> new AssertionError("No " + item + " in " + from));
                wanted.fire();
                menu.hide();
            } else {
                pick((ChoiceBox<?>) node, item);
            }
        });
    }

    private static <T> void pick(ChoiceBox<T> box, String item) {
        T wanted = box.getItems().stream()
                .filter(one -> box.getConverter().toString(one).equals(item))
                .findFirst()
                .orElseThrow(() -> new AssertionError("No " + item));
        box.setValue(wanted);
    }

    /** What is called so: of the view first; what says it by its own text before what is only read out so. */
    private Optional<Node> find(String name, Predicate<Node> wanted) {
        List<Node> all = application
                .robot
                .from(application.desk().window())
                .lookup((Node node) -> DrivenApplication.visible(node) && wanted.test(node))
                .queryAll()
                .stream()
                .toList();
        return Stream.<Predicate<Node>>of(
                        node -> node instanceof ButtonBase button && name.equals(button.getText()),
                        node -> node instanceof Labeled label && name.equals(label.getText()) && isRow(label),
                        node -> node instanceof ButtonBase button && calls(button.getText(), name),
                        node -> calls(node.getAccessibleText(), name))
                .map(kind -> all.stream().filter(kind).findFirst())
                .flatMap(Optional::stream)
                .findFirst();
    }

    /** Whether a label names a row, a lane, a card of the view. */
    private static boolean isRow(Labeled label) {
        for (Node at = label; at != null; at = at.getParent()) {
            if (at.isFocusTraversable() && at.getAccessibleText() != null) {
                return at.getAccessibleText().startsWith(label.getText());
            }
        }
        return false;
    }

    private static boolean calls(@Nullable String text, String name) {
        String said = Objects.requireNonNullElse(text, "").strip();
        return said.equals(name) || Stream.of(" ", ",", ":").anyMatch(end -> said.startsWith(name + end));
    }
}
