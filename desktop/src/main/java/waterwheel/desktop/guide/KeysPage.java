package waterwheel.desktop.guide;

import java.util.List;
import java.util.stream.Collectors;
import java.util.stream.Stream;
import javafx.scene.control.Label;
import javafx.scene.layout.FlowPane;
import javafx.scene.layout.GridPane;
import javafx.scene.layout.Region;
import javafx.scene.layout.VBox;

/** All keys on one page, by place. */
public final class KeysPage extends VBox {
    /** One key and what it does. */
    public record Key(String keys, String does) {}

    /** The keys of one place. */
    public record Group(String place, List<Key> keys) {
        public Group {
            keys = List.copyOf(keys);
        }
    }

    /** Keys of what has the focus, which no menu names. */
    private static final List<Group> PLACES = List.of(
            new Group("Anywhere", List.of(new Key("Space", "play or stop"))),
            new Group(
                    "A row of Staging",
                    List.of(
                            new Key("Left, Right", "trim by 0.1 dB, with Shift by 1 dB"),
                            new Key("Enter", "type the trim"),
                            new Key("Delete", "trim back to 0 dB"),
                            new Key("M, S", "mute, solo"),
                            new Key("A", "accept the proposal of the selected"),
                            new Key("Up, Down", "other row; with Shift select along"),
                            new Key("Escape", "discard proposals"))),
            new Group(
                    "A row of Intake",
                    List.of(
                            new Key("Enter", "type the name"),
                            new Key("Up, Down", "other row"),
                            new Key("Alt+Shift+Up, Down", "move the track"))),
            new Group(
                    "A lane of Blend",
                    List.of(
                            new Key("Left, Right", "fader by 0.1 dB, with Shift by 1 dB"),
                            new Key("Alt+Left, Right", "the fader alone, without what is linked"),
                            new Key("Enter", "type the fader"),
                            new Key("P", "type the placement, such as left 40"),
                            new Key("M, S", "mute, solo"),
                            new Key("Up, Down", "other lane; with Shift select along"))),
            new Group(
                    "A card of Flow",
                    List.of(
                            new Key("arrows", "other card"),
                            new Key("R", "the bus that it feeds"),
                            new Key("Enter", "show folded tracks"))),
            new Group(
                    "A fader or value",
                    List.of(
                            new Key("arrows", "one step, with Shift ten"),
                            new Key("Delete", "a fader back to its rest"),
                            new Key("Enter, Escape", "take or drop what was typed"))),
            new Group(
                    "The song's contour",
                    List.of(new Key("Left, Right", "5 seconds"), new Key("Home", "to the beginning"))));

    private final FlowPane groups = new FlowPane(28, 14);

    /** Makes a page of the menus' keys and of what has the focus. */
    KeysPage(List<Group> menus) {
        getStyleClass().add("guide-page");
        Label title = new Label(GuideSheet.KEYS);
        title.getStyleClass().add("guide-title");
        menus.forEach(this::add);
        PLACES.forEach(this::add);
        getChildren().addAll(title, groups);
    }

    /** All that it says, a line for each key. */
    static String text(List<Group> menus) {
        return Stream.concat(menus.stream(), PLACES.stream())
                .flatMap(group -> group.keys().stream())
                .map(key -> key.does() + ": " + key.keys())
                .collect(Collectors.joining("\n"));
    }

    private void add(Group group) {
        Label place = new Label(group.place());
        place.getStyleClass().add("stage-name");
        GridPane grid = new GridPane(12, 2);
        for (int i = 0; i < group.keys().size(); i++) {
            Label keys = new Label(group.keys().get(i).keys());
            keys.setMinWidth(Region.USE_PREF_SIZE);
            Label does = new Label(group.keys().get(i).does());
            does.getStyleClass().add("muted");
            grid.addRow(i, keys, does);
        }
        groups.getChildren().add(new VBox(4, place, grid));
    }
}
