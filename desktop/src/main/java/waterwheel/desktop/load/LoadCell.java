package waterwheel.desktop.load;

import javafx.geometry.Pos;
import javafx.scene.control.Label;
import javafx.scene.control.ListCell;
import javafx.scene.layout.HBox;
import javafx.scene.layout.Priority;
import javafx.scene.layout.Region;
import org.jspecify.annotations.Nullable;
import waterwheel.desktop.controls.ColumnLabel;
import waterwheel.desktop.controls.Hint;
import waterwheel.desktop.controls.Shares;
import waterwheel.desktop.controls.SpanBar;

/** One line of the list: whose, what, its share as a bar with the worst as a mark, and figures. */
final class LoadCell extends ListCell<LoadRow> {
    static final double CHANNEL_WIDTH = 150;
    static final double WHAT_WIDTH = 170;
    static final double FIGURE_WIDTH = 76;

    private final Label channel = fixed(CHANNEL_WIDTH);
    private final Label what = fixed(WHAT_WIDTH);
    private final SpanBar bar = new SpanBar();
    private final Label usual = figure();
    private final Label worst = figure();
    private final Label saves = figure();
    private final HBox line = new HBox(8, channel, what, bar, usual, worst, saves);

    LoadCell() {
        what.getStyleClass().add("muted");
        HBox.setHgrow(bar, Priority.ALWAYS);
        line.setAlignment(Pos.CENTER_LEFT);
        line.setMinWidth(0);
        setMinWidth(0);
        setPrefWidth(0);
    }

    private static Label fixed(double width) {
        Label label = new ColumnLabel("", width);
        label.setMaxWidth(width);
        Hint.wholeText(label);
        return label;
    }

    private static Label figure() {
        Label label = new ColumnLabel("", FIGURE_WIDTH, Pos.CENTER_RIGHT);
        label.getStyleClass().add("figure");
        label.setMinWidth(Region.USE_PREF_SIZE);
        label.setPrefWidth(FIGURE_WIDTH);
        return label;
    }

    /** By the square root, so that a hundredth is seen beside a half; the right end is all of the time. */
    private static double at(double share) {
        return Math.sqrt(Math.clamp(share, 0, 1));
    }

    @Override
    protected void updateItem(@Nullable LoadRow row, boolean none) {
        super.updateItem(row, none);
        if (none || row == null) {
            setGraphic(null);
            setAccessibleText("");
            return;
        }
        channel.setText(row.channel());
        what.setText(row.what());
        bar.showMarked(at(row.load().usual()), at(row.load().worst()));
        usual.setText(Shares.percent(row.load().usual()));
        worst.setText(Shares.percent(row.load().worst()));
        saves.setText(row.saves().isPresent() ? Shares.percent(row.saves().getAsDouble()) : "");
        setAccessibleText(row.channel() + ", " + row.what() + ": " + usual.getText() + " of a block, at worst "
                + worst.getText());
        setGraphic(line);
    }
}
