package waterwheel.desktop.order;

import java.util.List;
import javafx.geometry.Pos;
import javafx.scene.control.Label;
import javafx.scene.layout.HBox;
import javafx.scene.layout.Priority;
import javafx.scene.layout.Region;
import javafx.scene.layout.VBox;
import waterwheel.core.order.Part;
import waterwheel.core.order.Target;
import waterwheel.core.songs.OrderLevels;
import waterwheel.core.units.LevelText;
import waterwheel.desktop.controls.ColumnLabel;
import waterwheel.desktop.controls.Hint;

/** The columns' names, each with its target and its scale. */
final class SongHeader extends HBox {
    SongHeader() {
        super(SongCell.SPACING);
        getStyleClass().add("song-header");
        setAlignment(Pos.BOTTOM_LEFT);
    }

    /** Where the sum stands: behind what it is the sum of, before cues. */
    static int sumAt(List<Part> parts) {
        return (int) parts.stream().filter(part -> !part.cue()).count();
    }

    void show(OrderLevels levels) {
        List<Part> parts = levels.parts();
        Label song = new ColumnLabel("Song", SongCell.TITLE_WIDTH);
        getChildren().setAll(new ColumnLabel("", SongCell.NUMBER_WIDTH), song);
        for (int i = 0; i <= parts.size(); i++) {
            int sum = sumAt(parts);
            if (i == sum) {
                getChildren().add(column("Sum", sumTarget(levels), "The sum of all parts but clicks and cues"));
            }
            if (i < parts.size()) {
                Part part = parts.get(i);
                getChildren().add(column(part.name(), partTarget(levels, part), tip(part)));
            }
        }
    }

    private static String tip(Part part) {
        return part.cue()
                ? part.name() + ": heard while playing, in no sum, without a target"
                : part.name() + ": integrated loudness, and how far it is from the target, "
                        + LevelText.signed(OffTargetBar.EDGE_LU, 0, false) + " LU to either end of the bar";
    }

    private static String partTarget(OrderLevels levels, Part part) {
        return part.cue()
                ? "no target"
                : levels.order().target().goal() == Target.Goal.PARTS
                        ? "to " + LevelText.level(levels.order().targetLufs(part.name()), "LUFS")
                        : "";
    }

    private static String sumTarget(OrderLevels levels) {
        return levels.order().target().goal() == Target.Goal.SUM
                ? "to " + LevelText.level(levels.order().target().lufs(), "LUFS")
                : "";
    }

    private static VBox column(String name, String target, String tip) {
        Label title = new Label(name);
        title.getStyleClass().add("column-name");
        title.setMinWidth(0);
        Hint.on(title, tip);
        Label aim = new Label(target);
        aim.getStyleClass().add("muted");
        aim.setMinWidth(0);
        VBox column = new VBox(title, aim);
        column.getStyleClass().add("song-column");
        column.setMinWidth(0);
        column.setPrefWidth(0);
        column.setMaxWidth(Region.USE_COMPUTED_SIZE);
        HBox.setHgrow(column, Priority.ALWAYS);
        return column;
    }
}
