package waterwheel.desktop.order;

import java.util.ArrayList;
import java.util.List;
import java.util.OptionalDouble;
import javafx.geometry.Pos;
import javafx.scene.control.CheckBox;
import javafx.scene.control.ComboBox;
import javafx.scene.control.Label;
import javafx.scene.layout.HBox;
import javafx.scene.layout.Priority;
import javafx.scene.layout.Region;
import javafx.scene.layout.VBox;
import waterwheel.core.order.Part;
import waterwheel.core.order.RunningOrder;
import waterwheel.core.order.Song;
import waterwheel.core.order.Target;
import waterwheel.core.songs.PartLevels;
import waterwheel.core.songs.SongRow;
import waterwheel.desktop.controls.Hint;
import waterwheel.desktop.controls.SmallButton;
import waterwheel.desktop.controls.ValueField;

/** What a part is in all songs: its target, whether it is a cue, and which stems are meant by it. */
final class PartPane extends VBox {
    /** What stands for no part in the choice. */
    private static final String LEFT_OUT = "left out";

    private final OrderModel model;
    private final CheckBox cue = new CheckBox("A click or cue: in no sum");
    private final CheckBox own = new CheckBox("A target of its own");
    private final ValueField lufs;
    private final VBox stems = new VBox(3);
    private boolean showing;

    PartPane(OrderModel model) {
        super(4);
        this.model = model;
        lufs = new ValueField(
                "Target of this part in all songs",
                "LUFS",
                1,
                0.5,
                value -> change(part -> part.withOwnLufs(OptionalDouble.of(Math.clamp(value, Target.LEAST_LUFS, 0)))));
        lufs.setMinWidth(88);
        lufs.setPrefWidth(88);
        Hint.on(cue, "Heard while listening, in no sum, without a target; in all songs");
        cue.setOnAction(event -> change(part -> part.withCue(cue.isSelected())));
        Hint.on(own, "Give this part a loudness of its own, in all songs");
        own.setOnAction(event -> change(part -> part.withOwnLufs(
                own.isSelected() ? OptionalDouble.of(model.order().targetLufs(part.name())) : OptionalDouble.empty())));
        Region gap = new Region();
        HBox.setHgrow(gap, Priority.ALWAYS);
        HBox target = new HBox(6, own, gap, lufs);
        target.setAlignment(Pos.CENTER_LEFT);
        Label title = new Label("In all songs");
        title.getStyleClass().add("muted");
        getChildren().addAll(title, cue, target, stems);
    }

    /** A change of the part that is shown. */
    private interface Change {
        Part of(Part part);
    }

    private void change(Change change) {
        OrderModel.Selection selected = model.selectionProperty().get();
        if (!showing && selected != null && !selected.part().isEmpty()) {
            model.aim(change.of(model.order().part(selected.part())));
        }
    }

    /** Shows a part; of the sum, which names were said to be what. */
    void show(Song song, String name) {
        boolean any = !name.isEmpty();
        for (Region region : List.of(cue, own, lufs)) {
            region.setVisible(any);
            region.setManaged(any);
        }
        stems.getChildren().clear();
        if (!any) {
            model.order().names().forEach((stem, part) -> stems.getChildren().add(said(stem, part)));
            setVisible(!stems.getChildren().isEmpty());
            setManaged(isVisible());
            return;
        }
        setVisible(true);
        setManaged(true);
        showing = true;
        Part part = model.order().part(name);
        cue.setSelected(part.cue());
        own.setSelected(part.ownLufs().isPresent());
        own.setDisable(part.cue());
        lufs.setValue(model.order().targetLufs(name));
        lufs.setDisable(part.ownLufs().isEmpty());
        model.row(song.id())
                .flatMap(SongRow::known)
                .flatMap(levels -> levels.part(name))
                .map(PartLevels::stems)
                .ifPresent(all -> all.forEach(stem -> stems.getChildren().add(stem(stem, name))));
        showing = false;
    }

    /** A stem with the part that it is; any other can be chosen or typed. */
    private HBox stem(String stem, String part) {
        ComboBox<String> choice = new ComboBox<>();
        List<String> parts =
                new ArrayList<>(model.levels().parts().stream().map(Part::name).toList());
        parts.add(LEFT_OUT);
        choice.getItems().setAll(parts);
        choice.setEditable(true);
        choice.setValue(part);
        choice.getStyleClass().add("small");
        choice.setPrefWidth(130);
        choice.setAccessibleText("Part that stems called " + stem + " are");
        Hint.on(
                choice,
                "Which part stems called " + stem
                        + " are, in all songs: choose one, or type a new one and press Enter");
        Hint.on(choice.getEditor(), Hint.of(choice));
        choice.getEditor().setAccessibleText(choice.getAccessibleText());
        choice.setOnAction(event -> say(stem, part, choice.getValue()));
        Label name = new Label(stem);
        name.setMinWidth(0);
        Hint.on(name, stem);
        Region gap = new Region();
        HBox.setHgrow(gap, Priority.ALWAYS);
        HBox line = new HBox(6, name, new Label("is"), gap, choice);
        line.setAlignment(Pos.CENTER_LEFT);
        return line;
    }

    private void say(String stem, String before, String chosen) {
        if (!showing && chosen != null && !chosen.isBlank() && !chosen.equals(before)) {
            String part = chosen.equals(LEFT_OUT) ? RunningOrder.LEFT_OUT : chosen.strip();
            model.edit(stem + " is " + chosen.strip(), order -> order.withName(stem, part));
        }
    }

    /** A name of which something was said, to be taken back. */
    private HBox said(String stem, String part) {
        Label name = new Label(stem + " is " + (part.isEmpty() ? LEFT_OUT : part));
        name.setMinWidth(0);
        SmallButton back = new SmallButton("As its name says", "Let stems called " + stem + " be what their name says");
        back.setOnAction(event -> model.edit(stem + " as its name says", order -> order.withoutName(stem)));
        Region gap = new Region();
        HBox.setHgrow(gap, Priority.ALWAYS);
        HBox line = new HBox(6, name, gap, back);
        line.setAlignment(Pos.CENTER_LEFT);
        return line;
    }
}
