package waterwheel.desktop.order;

import java.util.ArrayList;
import java.util.List;
import javafx.css.PseudoClass;
import javafx.geometry.Pos;
import javafx.scene.control.Label;
import javafx.scene.control.ListCell;
import javafx.scene.layout.HBox;
import javafx.scene.layout.Priority;
import javafx.scene.layout.Region;
import javafx.scene.layout.VBox;
import org.jspecify.annotations.Nullable;
import waterwheel.core.order.Part;
import waterwheel.core.order.Target;
import waterwheel.core.songs.Equal;
import waterwheel.core.songs.OrderLevels;
import waterwheel.core.songs.SongRow;
import waterwheel.core.units.LevelText;
import waterwheel.desktop.controls.ColumnLabel;
import waterwheel.desktop.controls.Hint;

/** One song: its place, its title, a cell for each part and for the sum, and what is worth knowing of it. */
final class SongCell extends ListCell<SongRow> {
    static final double NUMBER_WIDTH = 28;
    static final double TITLE_WIDTH = 158;
    static final double SPACING = 6;

    private static final PseudoClass CHOSEN = PseudoClass.getPseudoClass("chosen");
    private static final PseudoClass OVER = PseudoClass.getPseudoClass("over");
    private static final PseudoClass PENDING = PseudoClass.getPseudoClass("pending");

    private final OrderModel model;
    private final Label number = new ColumnLabel("", NUMBER_WIDTH, Pos.CENTER_RIGHT);
    private final Label title = new Label();
    private final Label note = new Label();
    private final HBox line = new HBox(SPACING);
    private final List<Cell> cells = new ArrayList<>();

    SongCell(OrderModel model) {
        this.model = model;
        getStyleClass().add("song-cell");
        number.getStyleClass().addAll("figure", "muted");
        title.setMinWidth(0);
        note.setMinWidth(0);
        note.getStyleClass().add("song-note");
        VBox names = new VBox(title, note);
        names.setAlignment(Pos.CENTER_LEFT);
        names.setMinWidth(TITLE_WIDTH);
        names.setPrefWidth(TITLE_WIDTH);
        names.setMaxWidth(TITLE_WIDTH);
        line.setAlignment(Pos.CENTER_LEFT);
        line.getChildren().addAll(number, names);
        line.setMinWidth(0);
        setMinWidth(0);
        setPrefWidth(0);
    }

    /** One part of the song. */
    private final class Cell extends VBox {
        private final OffTargetBar bar = new OffTargetBar();
        private final Label loudness = new Label();
        private final Label off = new Label();
        /** A shape, so that it is not said by colour alone. */
        private final Region over = new Region();

        private String part = "";

        Cell() {
            getStyleClass().add("part-cell");
            loudness.getStyleClass().add("figure");
            loudness.setMinWidth(USE_PREF_SIZE);
            off.getStyleClass().addAll("figure", "muted");
            off.setMinWidth(USE_PREF_SIZE);
            Region gap = new Region();
            HBox.setHgrow(gap, Priority.ALWAYS);
            over.getStyleClass().add("over-guard");
            HBox.setHgrow(bar, Priority.ALWAYS);
            HBox scale = new HBox(3, over, bar);
            scale.setAlignment(Pos.CENTER_LEFT);
            getChildren().addAll(new HBox(loudness, gap, off), scale);
            setAlignment(Pos.CENTER_LEFT);
            setMinWidth(0);
            setPrefWidth(0);
            HBox.setHgrow(this, Priority.ALWAYS);
            setOnMousePressed(event -> {
                SongRow row = getItem();
                if (row != null) {
                    model.select(row.song().id(), part);
                }
            });
        }

        void show(SongRow row, OrderLevels levels, String name, OrderLevels.@Nullable Cell cell) {
            part = name;
            Target target = levels.order().target();
            Equal proposal = model.proposal(row.song().id(), name);
            pseudoClassStateChanged(
                    CHOSEN,
                    new OrderModel.Selection(row.song().id(), name)
                            .equals(model.selectionProperty().get()));
            if (cell == null) {
                loudness.setText(row.levels() == null ? "" : "not there");
                loudness.pseudoClassStateChanged(OVER, false);
                over.setVisible(false);
                bar.setVisible(false);
                off.setText("");
                bar.show(Double.NaN, target.toleranceLu(), Double.NaN);
                setAccessibleText(said(name) + ": not there");
                Hint.on(this, getAccessibleText());
                return;
            }
            loudness.setText(LevelText.level(cell.level().integratedLufs(), "LUFS"));
            loudness.pseudoClassStateChanged(OVER, cell.overGuard());
            over.setVisible(cell.overGuard());
            Target.Nearness nearness = cell.nearness(target).orElse(null);
            off.setText(
                    nearness == null
                            ? ""
                            : cell.level().silent() ? "silent" : LevelText.signed(cell.offLu(), 1, true) + " LU");
            bar.setVisible(nearness != null);
            bar.show(
                    cell.offLu(),
                    target.toleranceLu(),
                    proposal == null || nearness == null ? Double.NaN : cell.offLu() + proposal.changeDb());
            String held = proposal != null && proposal.heldByGuard() ? ", held below it by the guard" : "";
            String peak = cell.overGuard()
                    ? ", true peak " + LevelText.level(cell.level().truePeakDbtp(), "dBTP") + ", over the guard"
                    : "";
            setAccessibleText(said(name) + ": " + loudness.getText()
                    + (nearness == null ? "" : ", " + nearness.label() + ", " + off.getText()) + held + peak);
            Hint.on(this, getAccessibleText());
        }

        private static String said(String name) {
            return name.isEmpty() ? "Sum" : name;
        }
    }

    @Override
    protected void updateItem(@Nullable SongRow row, boolean none) {
        super.updateItem(row, none);
        if (none || row == null) {
            setGraphic(null);
            setAccessibleText("");
            return;
        }
        OrderLevels levels = model.levels();
        List<Part> parts = levels.parts();
        number.setText(String.valueOf(1
                + levels.order().songs().stream()
                        .map(song -> song.id())
                        .toList()
                        .indexOf(row.song().id())));
        title.setText(row.song().title());
        List<String> sentences = levels.sentences(row);
        note.setText(row.isPending() ? "being measured" : sentences.isEmpty() ? "" : sentences.getFirst());
        note.setManaged(!note.getText().isEmpty());
        note.setVisible(note.isManaged());
        Hint.on(note, sentences.isEmpty() ? null : String.join("\n", sentences));
        line.pseudoClassStateChanged(PENDING, row.isPending());
        int wanted = parts.size() + 1;
        while (cells.size() < wanted) {
            cells.add(new Cell());
        }
        for (int i = 0; i < wanted; i++) {
            Cell cell = cells.get(i);
            boolean sum = i == SongHeader.sumAt(parts);
            String name = sum
                    ? ""
                    : parts.get(i > SongHeader.sumAt(parts) ? i - 1 : i).name();
            String section = model.sectionProperty().get();
            cell.show(
                    row, levels, name, (sum ? levels.sum(row, section) : levels.cell(row, name, section)).orElse(null));
        }
        if (line.getChildren().size() != wanted + 2) {
            line.getChildren().setAll(line.getChildren().subList(0, 2));
            line.getChildren().addAll(cells.subList(0, wanted));
        }
        setAccessibleText(number.getText() + ", " + row.song().title() + ", " + note.getText());
        setGraphic(line);
    }
}
