package waterwheel.desktop.order;

import java.util.ArrayList;
import java.util.Comparator;
import java.util.List;
import java.util.Optional;
import java.util.function.UnaryOperator;
import javafx.geometry.Pos;
import javafx.scene.control.Label;
import javafx.scene.control.TextField;
import javafx.scene.layout.HBox;
import javafx.scene.layout.Priority;
import javafx.scene.layout.VBox;
import waterwheel.core.order.Song;
import waterwheel.core.order.SongId;
import waterwheel.core.order.Stretch;
import waterwheel.core.songs.HeardSong;
import waterwheel.core.songs.SongLevels;
import waterwheel.core.songs.SongRow;
import waterwheel.desktop.controls.Hint;
import waterwheel.desktop.controls.SmallButton;
import waterwheel.desktop.controls.ValueField;

/** A song's sections: made where the song is listened to, named and moved by typing. */
final class SectionsPane extends VBox {
    private final OrderModel model;
    private final VBox rows = new VBox(3);
    private SongId song = new SongId("none");
    /** Of the song that is shown; 0 while it was never known. */
    private double seconds;

    SectionsPane(OrderModel model) {
        super(4);
        this.model = model;
        SmallButton here = new SmallButton(
                "Section from here",
                "Begin a section where this song is listened to; the one before ends there, the song's end is its own");
        here.setOnAction(event -> fromHere());
        Label title = new Label("Sections of this song, in seconds");
        title.getStyleClass().add("muted");
        getChildren().addAll(title, rows, here);
    }

    private void fromHere() {
        HeardSong heard = model.listening().heardProperty().get();
        double at = heard != null && heard.song().id().equals(song)
                ? Math.round(model.listening().secondsProperty().get() * 10) / 10.0
                : 0;
        rememberLength();
        double end = seconds;
        if (end == 0) {
            model.tell("How long this song is, is not known yet: wait until it is measured, then cut it.");
        } else if (at < end) {
            change("Section added", sections -> {
                List<Stretch> cut = new ArrayList<>();
                for (Stretch one : sections) {
                    boolean around = one.startSeconds() < at && one.endSeconds() > at;
                    cut.add(around ? new Stretch(one.name(), one.startSeconds(), at) : one);
                }
                double until = sections.stream()
                        .mapToDouble(Stretch::startSeconds)
                        .filter(start -> start > at)
                        .min()
                        .orElse(end);
                cut.removeIf(one -> one.startSeconds() == at);
                cut.add(new Stretch("Section " + (cut.size() + 1), at, until));
                cut.sort(Comparator.comparingDouble(Stretch::startSeconds));
                return cut;
            });
        }
    }

    private void change(String what, UnaryOperator<List<Stretch>> change) {
        model.edit(what, order -> order.withSong(song, one -> one.withSections(change.apply(one.sections()))));
    }

    /** No section changes how long a song is, so that its length stays true while it is measured anew. */
    private void rememberLength() {
        model.row(song).flatMap(SongRow::known).map(SongLevels::seconds).ifPresent(known -> seconds = known);
    }

    void show(Song shown) {
        if (!shown.id().equals(song)) {
            song = shown.id();
            seconds = 0;
        }
        rememberLength();
        rows.getChildren().clear();
        for (int i = 0; i < shown.sections().size(); i++) {
            rows.getChildren().add(row(i, shown.sections().get(i)));
        }
    }

    private HBox row(int index, Stretch section) {
        TextField name = new TextField(section.name());
        name.getStyleClass().add("small");
        name.setAccessibleText("Name of section " + (index + 1));
        Hint.on(name, "Name of the section: type and press Enter");
        name.setOnAction(event -> replace(
                index,
                Optional.of(name.getText().strip())
                        .filter(text -> !text.isEmpty())
                        .map(text -> new Stretch(text, section.startSeconds(), section.endSeconds()))
                        .orElse(section)));
        HBox.setHgrow(name, Priority.ALWAYS);
        name.setMinWidth(40);
        ValueField start = seconds(
                "Beginning of " + section.name(),
                section.startSeconds(),
                value -> replace(
                        index,
                        new Stretch(
                                section.name(),
                                Math.clamp(value, 0, section.endSeconds() - 0.1),
                                section.endSeconds())));
        ValueField end = seconds(
                "End of " + section.name(),
                section.endSeconds(),
                value -> replace(
                        index,
                        new Stretch(
                                section.name(),
                                section.startSeconds(),
                                Math.max(value, section.startSeconds() + 0.1))));
        SmallButton out = new SmallButton("\u00d7", "Take the section " + section.name() + " out");
        out.setAccessibleText("Take the section " + section.name() + " out");
        out.setOnAction(event -> change("Section taken out", sections -> {
            List<Stretch> fewer = new ArrayList<>(sections);
            fewer.remove(section);
            return fewer;
        }));
        HBox row = new HBox(4, name, start, end, out);
        row.setAlignment(Pos.CENTER_LEFT);
        return row;
    }

    /** Takes a number of seconds. */
    private interface Seconds {
        void take(double value);
    }

    private static ValueField seconds(String what, double value, Seconds take) {
        ValueField field = new ValueField(what, "s", 1, 0.1, take::take);
        field.setValue(value);
        field.setMinWidth(62);
        field.setPrefWidth(62);
        return field;
    }

    private void replace(int index, Stretch section) {
        change("Section changed", sections -> {
            List<Stretch> changed = new ArrayList<>(sections);
            if (index < changed.size()) {
                changed.set(index, section);
            }
            return changed;
        });
    }
}
