package waterwheel.desktop.frame;

import java.util.List;
import java.util.Locale;
import javafx.geometry.Pos;
import javafx.scene.control.Button;
import javafx.scene.control.Label;
import javafx.scene.control.ScrollPane;
import javafx.scene.control.ToggleButton;
import javafx.scene.control.Tooltip;
import javafx.scene.input.KeyCode;
import javafx.scene.input.KeyEvent;
import javafx.scene.layout.HBox;
import javafx.scene.layout.Priority;
import javafx.scene.layout.VBox;
import org.jspecify.annotations.Nullable;
import waterwheel.core.findings.Finding;
import waterwheel.core.units.LevelText;
import waterwheel.desktop.controls.SmallButton;
import waterwheel.desktop.model.SessionModel;

/** The most serious finding in one line; opens into the list of all. */
public final class FindingsLine extends VBox {
    private static final double MOST_HEIGHT = 230;

    private final SessionModel model;
    private @Nullable Shown shown;
    private final HBox line = new HBox();
    private final VBox list = new VBox();
    private final ScrollPane scroll = new ScrollPane(list);
    private final ToggleButton all = new ToggleButton();

    public FindingsLine(SessionModel model) {
        this.model = model;
        getStyleClass().add("findings");
        line.setAlignment(Pos.CENTER_LEFT);
        line.getStyleClass().add("findings-line");
        list.getStyleClass().add("findings-list");
        scroll.setFitToWidth(true);
        list.heightProperty().subscribe(height -> {
            double fitting = Math.min(height.doubleValue() + 2, MOST_HEIGHT);
            scroll.setMinHeight(fitting);
            scroll.setPrefHeight(fitting);
        });
        addEventFilter(KeyEvent.KEY_PRESSED, event -> {
            if (event.getCode() == KeyCode.ESCAPE && all.isSelected()) {
                all.setSelected(false);
                event.consume();
            }
        });
        scroll.setVisible(false);
        scroll.setManaged(false);
        all.setTooltip(new Tooltip("Show or hide all findings (Ctrl+F)"));
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
            first = row(findings.getFirst(), false);
        }
        HBox.setHgrow(first, Priority.ALWAYS);
        line.getChildren().setAll(first, all);
    }

    /** Rows are made only while they are seen. */
    private void showList() {
        list.getChildren()
                .setAll(
                        scroll.isVisible() && shown != null
                                ? shown.findings().stream()
                                        .map(f -> row(f, true))
                                        .toList()
                                : List.of());
    }

    private HBox row(Finding finding, boolean whole) {
        Label severity = new Label(finding.severity().label());
        severity.getStyleClass().addAll("severity", finding.severity().name().toLowerCase(Locale.ROOT));
        severity.setMinWidth(USE_PREF_SIZE);
        Label sentence = new Label(whole ? finding.sentence() + " " + finding.advice() : finding.sentence());
        sentence.setWrapText(whole);
        sentence.setTooltip(new Tooltip(finding.sentence() + "\n" + finding.advice()));
        sentence.setMaxWidth(Double.MAX_VALUE);
        sentence.setMinWidth(0);
        HBox.setHgrow(sentence, Priority.ALWAYS);
        HBox row = new HBox(severity, sentence);
        row.getStyleClass().add("finding");
        row.setAlignment(Pos.CENTER_LEFT);
        finding.atSeconds().ifPresent(at -> row.getChildren().add(place(finding, at)));
        Button show = new SmallButton(
                "Show " + model.session().channel(finding.channel()).name(), "Select the channel");
        show.setOnAction(event -> model.select(finding.channel()));
        row.getChildren().add(show);
        finding.remedy().ifPresent(remedy -> {
            Button apply = new SmallButton("Apply: " + remedy.name(), finding.advice() + " This can be undone.");
            apply.getStyleClass().add("remedy");
            apply.setOnAction(event -> model.edit(remedy));
            row.getChildren().add(apply);
        });
        return row;
    }

    private Button place(Finding finding, double seconds) {
        Button button = new SmallButton("at " + LevelText.time(seconds), "Go to this place in the song");
        button.getStyleClass().add("figure");
        button.setOnAction(event -> {
            model.select(finding.channel());
            model.transport().seek(seconds);
        });
        return button;
    }
}
