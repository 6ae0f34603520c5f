package waterwheel.desktop.frame;

import java.util.EnumSet;
import java.util.List;
import java.util.Set;
import javafx.css.PseudoClass;
import javafx.geometry.Pos;
import javafx.scene.control.Label;
import javafx.scene.control.ScrollPane;
import javafx.scene.control.ToggleButton;
import javafx.scene.input.KeyCode;
import javafx.scene.input.KeyEvent;
import javafx.scene.layout.HBox;
import javafx.scene.layout.Priority;
import javafx.scene.layout.VBox;
import org.jspecify.annotations.Nullable;
import waterwheel.core.findings.Finding;
import waterwheel.core.findings.FindingGroup;
import waterwheel.desktop.controls.Hint;
import waterwheel.desktop.controls.Sight;
import waterwheel.desktop.model.SessionModel;

/** The most serious finding in one line; opens into the list of all. */
public final class FindingsLine extends VBox {
    private static final double MOST_HEIGHT = 230;

    private static final PseudoClass INSIDE = PseudoClass.getPseudoClass("inside");

    private final SessionModel model;
    /** Rules whose findings are shown each in a row of its own. */
    private final Set<Finding.Rule> opened = EnumSet.noneOf(Finding.Rule.class);

    private @Nullable Shown shown;
    private final HBox line = new HBox();
    private final VBox list = new VBox();
    private final ScrollPane scroll = new ScrollPane();
    private final ToggleButton all = new ToggleButton();

    public FindingsLine(SessionModel model) {
        this.model = model;
        getStyleClass().add("findings");
        line.setAlignment(Pos.CENTER_LEFT);
        line.getStyleClass().add("findings-line");
        list.getStyleClass().add("findings-list");
        scroll.setFitToWidth(true);
        Sight.fit(scroll, list, MOST_HEIGHT);
        addEventFilter(KeyEvent.KEY_PRESSED, event -> {
            if (event.getCode() == KeyCode.ESCAPE && all.isSelected()) {
                all.setSelected(false);
                event.consume();
            }
        });
        scroll.setVisible(false);
        scroll.setManaged(false);
        Hint.on(all, "Show or hide all findings (Ctrl+F)");
        all.selectedProperty().subscribe(open -> {
            scroll.setVisible(open);
            scroll.setManaged(open);
            showList();
        });
        getChildren().addAll(scroll, line);
        model.keep(model.findingsProperty().subscribe(this::show));
        model.keep(model.levelsProperty()
                .subscribe(levels -> show(model.findingsProperty().get())));
    }

    /** What the line was last made of. */
    private record Shown(List<Finding> findings, boolean complete) {}

    /** Opens or closes the list. */
    public void toggle() {
        all.setSelected(!all.isSelected());
    }

    private void show(List<Finding> findings) {
        Shown now = new Shown(findings, model.levels().complete());
        if (now.equals(shown)) {
            return;
        }
        shown = now;
        showList();
        all.setText(findings.size() + (findings.size() == 1 ? " finding" : " findings"));
        all.setAccessibleText("Show all " + all.getText());
        all.setMinWidth(USE_PREF_SIZE);
        HBox first;
        if (findings.isEmpty()) {
            Label calm = new Label(now.complete() ? "No findings: nothing here will be lost." : "Measuring the song…");
            calm.getStyleClass().add("muted");
            first = new HBox(calm);
        } else {
            first = FindingRow.of(model, findings.getFirst(), false);
        }
        HBox.setHgrow(first, Priority.ALWAYS);
        line.getChildren().setAll(first, all);
    }

    /** Rows are made only while they are seen. */
    private void showList() {
        list.getChildren().clear();
        if (scroll.isVisible() && shown != null) {
            FindingGroup.of(shown.findings()).forEach(this::add);
        }
    }

    private void add(FindingGroup group) {
        boolean each = opened.contains(group.rule());
        if (group.isFolded()) {
            list.getChildren().add(FindingRow.of(model, group, each, () -> open(group.rule())));
        }
        if (!group.isFolded() || each) {
            for (Finding finding : group.findings()) {
                FindingRow row = FindingRow.of(model, finding, true);
                row.pseudoClassStateChanged(INSIDE, group.isFolded());
                list.getChildren().add(row);
            }
        }
    }

    private void open(Finding.Rule rule) {
        if (!opened.remove(rule)) {
            opened.add(rule);
        }
        showList();
    }
}
