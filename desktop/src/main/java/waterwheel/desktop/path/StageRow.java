package waterwheel.desktop.path;

import java.util.Optional;
import javafx.css.PseudoClass;
import javafx.geometry.Pos;
import javafx.scene.control.Label;
import javafx.scene.layout.HBox;
import javafx.scene.layout.Priority;
import javafx.scene.layout.Region;
import org.jspecify.annotations.Nullable;
import waterwheel.core.load.PartLoad;
import waterwheel.core.metering.Figures;
import waterwheel.core.path.Stage;
import waterwheel.core.units.LevelText;
import waterwheel.desktop.controls.Hint;
import waterwheel.desktop.controls.LevelBar;
import waterwheel.desktop.controls.Shares;
import waterwheel.desktop.model.SessionModel;

/** One stage: its control, its level, its headroom, and the change against the stage above. */
final class StageRow extends PathRow {
    private static final PseudoClass PENDING = PseudoClass.getPseudoClass("pending");
    private static final PseudoClass OVER = PseudoClass.getPseudoClass("over");
    private static final PseudoClass FROZEN = PseudoClass.getPseudoClass("frozen");

    private final Stage stage;
    private final Label name = new RowName();
    private final LevelBar bar;
    private final Label frozen = new Label("frozen to here");
    private final Label change = new Label();
    private final Label average = new Label();
    private final Label figures = new Label();
    private final Label load = new Label();
    /** Which of several of its kind it is, such as an insert's slot. */
    private String part = "";

    StageRow(Stage stage, StageControls.Control control, SessionModel model) {
        super(control);
        this.stage = stage;
        getStyleClass().add("stage-row");
        name.setText(stage.label());
        name.getStyleClass().add("stage-name");
        change.getStyleClass().addAll("figure", "muted");
        change.setMinWidth(50);
        change.setAlignment(Pos.CENTER_RIGHT);
        Hint.on(change, "Change of the average against the stage above");
        figures.getStyleClass().add("figure");
        Hint.on(figures, "Whole song at this point: highest sample, and 0 dBFS minus it");
        Region gap = new Region();
        HBox.setHgrow(gap, Priority.ALWAYS);
        average.getStyleClass().add("figure");
        average.setMinWidth(Region.USE_PREF_SIZE);
        Hint.on(average, "Gated average over the whole song at this point");
        frozen.getStyleClass().add("frozen-mark");
        frozen.setMinWidth(Region.USE_PREF_SIZE);
        Hint.on(frozen, "What is before sounds as it was rendered, and is locked");
        load.getStyleClass().addAll("figure", "muted");
        load.setMinWidth(Region.USE_PREF_SIZE);
        Hint.on(load, "What this slot takes of a block's time");
        load.managedProperty().bind(load.textProperty().isNotEmpty());
        showFrozen(false, false);
        HBox heading = new HBox(6, name, gap, average, change);
        heading.setAlignment(Pos.CENTER_LEFT);
        bar = new LevelBar(model.session().nominalDbfs());
        Region between = new Region();
        HBox.setHgrow(between, Priority.ALWAYS);
        getChildren().addAll(heading, control.node(), bar, new HBox(4, figures, between, load, frozen));
    }

    Stage stage() {
        return stage;
    }

    String part() {
        return part;
    }

    /** Says which of several stages of its kind this is, and what that is called. */
    StageRow of(String which, String title) {
        part = which;
        name.setText(title);
        return this;
    }

    /** Forgets levels and load, before those of another channel are shown. */
    void forget() {
        bar.forget();
        figures.setText("");
        average.setText("");
        change.setText("");
        load.setText("");
    }

    /**
     * Shows whether the stage lies in the channel's frozen sound.
     *
     * @param last whether that ends here
     */
    void showFrozen(boolean cold, boolean last) {
        pseudoClassStateChanged(FROZEN, cold);
        frozen.setVisible(last);
        frozen.setManaged(last);
    }

    /** Shows what the slot takes of a block's time, where that is known. */
    void showLoad(Optional<PartLoad> known) {
        load.setText(known.map(one -> Shares.percent(one.usual())).orElse(""));
    }

    void setNominal(double dbfs) {
        bar.setNominal(dbfs);
    }

    void show(Figures now, @Nullable Figures above) {
        bar.show(now);
        figures.pseudoClassStateChanged(PENDING, false);
        change.pseudoClassStateChanged(PENDING, false);
        average.pseudoClassStateChanged(PENDING, false);
        figures.pseudoClassStateChanged(OVER, now.headroomDb() < 0);
        figures.setText(
                now.silent()
                        ? "silent"
                        : "peak " + LevelText.level(now.samplePeakDbfs(), "dBFS") + "   headroom "
                                + LevelText.signed(now.headroomDb(), 1, true) + " dB");
        average.setText(now.silent() ? "" : "average " + LevelText.level(now.averageDbfs(), "dBFS"));
        boolean comparable = above != null && !above.silent() && !now.silent();
        change.setText(above != null && comparable ? LevelText.change(now.averageDbfs() - above.averageDbfs()) : "");
    }

    void showPending() {
        bar.showPending();
        figures.pseudoClassStateChanged(PENDING, true);
        change.pseudoClassStateChanged(PENDING, true);
        average.pseudoClassStateChanged(PENDING, true);
        if (figures.getText().isEmpty()) {
            figures.setText("measuring…");
        }
    }

    void showLive(double peakLinear, double seconds) {
        bar.showLive(peakLinear, seconds);
    }
}
