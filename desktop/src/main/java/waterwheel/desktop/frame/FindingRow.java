package waterwheel.desktop.frame;

import java.util.Locale;
import javafx.geometry.Pos;
import javafx.scene.control.Button;
import javafx.scene.control.Label;
import javafx.scene.layout.HBox;
import javafx.scene.layout.Priority;
import waterwheel.core.edit.Edit;
import waterwheel.core.findings.Finding;
import waterwheel.core.findings.FindingGroup;
import waterwheel.core.units.LevelText;
import waterwheel.desktop.controls.Hint;
import waterwheel.desktop.controls.SmallButton;
import waterwheel.desktop.model.SessionModel;

/** A finding, or several of one rule in one row: how bad, what, where, and what can be done. */
final class FindingRow extends HBox {
    private final SessionModel model;

    private FindingRow(SessionModel model, Finding.Severity severity, String words, String tip, boolean whole) {
        this.model = model;
        Label badge = new Label(severity.label());
        badge.getStyleClass().addAll("severity", severity.name().toLowerCase(Locale.ROOT));
        badge.setMinWidth(USE_PREF_SIZE);
        Label sentence = new Label(words);
        sentence.setWrapText(whole);
        Hint.on(sentence, tip);
        sentence.setMaxWidth(Double.MAX_VALUE);
        sentence.setMinWidth(0);
        HBox.setHgrow(sentence, Priority.ALWAYS);
        getChildren().addAll(badge, sentence);
        getStyleClass().add("finding");
        setAlignment(Pos.CENTER_LEFT);
    }

    /** @param whole whether it is told whole, on as many lines as it takes, with what to do */
    static FindingRow of(SessionModel model, Finding finding, boolean whole) {
        FindingRow row = new FindingRow(
                model,
                finding.severity(),
                whole ? finding.sentence() + " " + finding.advice() : finding.sentence(),
                finding.sentence() + "\n" + finding.advice(),
                whole);
        finding.atSeconds().ifPresent(at -> row.add(row.place(finding, at)));
        Button show = new SmallButton(
                "Show " + model.session().channel(finding.channel()).name(), "Select the channel");
        show.setOnAction(event -> model.select(finding.channel()));
        row.add(show);
        finding.remedy().ifPresent(remedy -> row.add(row.apply("Apply: " + remedy.name(), finding.advice(), remedy)));
        return row;
    }

    /** @param open shows or hides the findings themselves */
    static FindingRow of(SessionModel model, FindingGroup group, boolean isOpen, Runnable open) {
        String sentence = group.sentence(model.session());
        FindingRow row = new FindingRow(model, group.rule().severity(), sentence, sentence, true);
        Button each = new SmallButton(isOpen ? "Fold" : "Each", isOpen ? "Put them in one row" : "One row for each");
        each.setOnAction(event -> open.run());
        row.add(each);
        group.remedy()
                .ifPresent(remedy -> row.add(row.apply(
                        group.remedies() == group.findings().size()
                                ? "Apply to all"
                                : "Apply to " + group.remedies() + " of them",
                        group.findings().getFirst().advice(),
                        remedy)));
        return row;
    }

    private void add(Button button) {
        getChildren().add(button);
    }

    private Button apply(String name, String advice, Edit remedy) {
        Button apply = new SmallButton(name, advice + " This can be undone.");
        apply.getStyleClass().add("remedy");
        apply.setOnAction(event -> model.edit(remedy));
        return apply;
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
