package waterwheel.desktop.stems;

import java.io.File;
import javafx.geometry.Pos;
import javafx.scene.control.Button;
import javafx.scene.control.CheckBox;
import javafx.scene.control.Label;
import javafx.scene.control.TextField;
import javafx.scene.layout.HBox;
import javafx.scene.layout.Priority;
import javafx.scene.layout.Region;
import javafx.scene.layout.VBox;
import javafx.stage.DirectoryChooser;
import waterwheel.core.stems.NamePattern;
import waterwheel.desktop.controls.Hint;
import waterwheel.desktop.controls.SmallButton;

/** What the files are called and where they go. */
final class DestinationBar extends VBox {
    private final StemsModel model;
    private final TextField pattern = new TextField();
    private final TextField date = new TextField();
    private final Label problem = new Label();

    DestinationBar(StemsModel model) {
        super(4);
        this.model = model;
        getChildren().addAll(names(), folder());
    }

    private HBox names() {
        Label named = fixed(new Label("Files are called"));
        pattern.setText(model.namesProperty().get().text());
        pattern.setPrefColumnCount(16);
        pattern.getStyleClass().addAll("small", "code");
        pattern.setAccessibleText("Pattern of the files' names");
        Hint.on(
                pattern,
                "{number}, {part}, {song}, {rate} in Hz and {date} stand for what they say;"
                        + " the list below shows what comes of it");
        Label dated = fixed(new Label("Date"));
        date.setPrefColumnCount(9);
        date.getStyleClass().add("small");
        date.setAccessibleText("What {date} stands for");
        Hint.on(date, "What {date} stands for in names; it is noted in the files too");
        problem.getStyleClass().add("problem");
        problem.setMinWidth(0);
        pattern.textProperty().subscribe(text -> take());
        date.textProperty().subscribe(text -> take());
        HBox line = new HBox(8, named, pattern, dated, date, problem);
        line.setAlignment(Pos.CENTER_LEFT);
        return line;
    }

    /** A pattern that says nothing sensible is told of, and the last one that did stays. */
    private void take() {
        String wrong = NamePattern.problem(pattern.getText()).orElse("");
        problem.setText(wrong);
        Hint.on(problem, wrong.isEmpty() ? null : wrong);
        if (wrong.isEmpty()) {
            model.namesProperty().set(new NamePattern(pattern.getText(), date.getText()));
        }
    }

    private HBox folder() {
        Label folder = new Label();
        folder.setMinWidth(0);
        folder.getStyleClass().add("code");
        model.folderProperty().subscribe(path -> {
            folder.setText(path.toString());
            Hint.on(folder, path.toString());
        });
        Button choose = new SmallButton("Choose folder…", "Choose where the files go");
        choose.setOnAction(event -> {
            DirectoryChooser chooser = new DirectoryChooser();
            chooser.setTitle("Folder for the stems");
            File chosen = chooser.showDialog(getScene().getWindow());
            if (chosen != null) {
                model.folderProperty().set(chosen.toPath());
            }
        });
        CheckBox cues = new CheckBox("Clicks and cues in a folder apart");
        cues.setSelected(true);
        cues.selectedProperty().subscribe(on -> model.cuesProperty().set(on));
        Hint.on(cues, "Cues are never part of the mix; they can be written beside it or left out");
        cues.setMinWidth(Region.USE_PREF_SIZE);
        Region gap = new Region();
        HBox.setHgrow(gap, Priority.ALWAYS);
        HBox line = new HBox(12, fixed(new Label("Into")), folder, choose, gap, cues);
        line.setAlignment(Pos.CENTER_LEFT);
        return line;
    }

    private static Label fixed(Label label) {
        label.setMinWidth(Region.USE_PREF_SIZE);
        return label;
    }
}
