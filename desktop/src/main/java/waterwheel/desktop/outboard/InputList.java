package waterwheel.desktop.outboard;

import java.util.List;
import java.util.function.DoubleFunction;
import javafx.geometry.Pos;
import javafx.scene.control.Label;
import javafx.scene.layout.HBox;
import javafx.scene.layout.Priority;
import javafx.scene.layout.Region;
import javafx.scene.layout.VBox;
import waterwheel.core.edit.RackEdits;
import waterwheel.core.rack.RecordingSettings;
import waterwheel.core.session.Track;
import waterwheel.desktop.controls.DbField;
import waterwheel.desktop.controls.SmallButton;
import waterwheel.desktop.model.SessionModel;

/** The tracks that inputs feed, the zone in which their levels should lie, and recording. */
final class InputList extends VBox {
    private final SessionModel session;
    private final OutboardModel model;
    private final DbField average = field(
            "The average of what is recorded should lie about there",
            zone -> db -> zone.withZone(Math.clamp(db, -40, -10), zone.peakFromDbfs(), zone.peakToDbfs()));
    private final DbField peakFrom = field("Peaks should reach that", zone -> db -> {
        double from = Math.clamp(db, -40, 0);
        return zone.withZone(zone.averageDbfs(), from, Math.max(from, zone.peakToDbfs()));
    });
    private final DbField peakTo = field("Peaks should not go beyond that", zone -> db -> {
        double to = Math.clamp(db, -40, 0);
        return zone.withZone(zone.averageDbfs(), Math.min(to, zone.peakFromDbfs()), to);
    });
    private final SmallButton record = new SmallButton("Record", "Play the song and record the marked tracks, or stop");
    private final SmallButton again =
            new SmallButton("Listen again", "Inputs are heard again after one of them stayed at full scale");
    private final VBox lines = new VBox();
    private List<InputRow> rows = List.of();

    InputList(SessionModel session, OutboardModel model) {
        this.session = session;
        this.model = model;
        getStyleClass().add("input-list");
        lines.setSpacing(4);
        record.getStyleClass().add("record");
        record.setOnAction(event -> session.recordings().recordOrStop());
        again.setOnAction(event -> session.transport().listenAgain());
        session.keep(session.transport().howledProperty().subscribe(howled -> {
            again.setVisible(howled);
            again.setManaged(howled);
        }));
        session.keep(session.recordings().recordingProperty().subscribe(on -> record.setText(on ? "Stop" : "Record")));
        session.keep(session.recordings().markedProperty().subscribe(marked -> showRows()));
        getChildren().addAll(header(), zone(), lines);
    }

    /** Shows what comes in now. */
    void showLevels() {
        rows.forEach(row -> row.showLevel(session.transport()));
    }

    private interface Setting {
        DoubleFunction<RecordingSettings> of(RecordingSettings zone);
    }

    private DbField field(String what, Setting setting) {
        DbField field = new DbField(what, "dBFS", db -> edit(setting, db));
        field.setPrefWidth(92);
        field.setMinWidth(92);
        return field;
    }

    private void edit(Setting setting, double db) {
        model.edit(RackEdits.rack(
                "Recording zone",
                rack -> rack.withRecording(setting.of(rack.recording()).apply(db))));
    }

    private HBox header() {
        Label title = new Label("Recorded from inputs");
        title.getStyleClass().add("section-title");
        title.setMinWidth(Region.USE_PREF_SIZE);
        Region gap = new Region();
        HBox.setHgrow(gap, Priority.ALWAYS);
        HBox header = new HBox(8, title, gap, again, record);
        header.setAlignment(Pos.CENTER_LEFT);
        header.getStyleClass().add("loop-header");
        return header;
    }

    private HBox zone() {
        HBox zone = new HBox(6, label("Average about"), average, label("peaks"), peakFrom, label("to"), peakTo);
        zone.setAlignment(Pos.CENTER_LEFT);
        zone.getStyleClass().add("loop-header");
        return zone;
    }

    private static Label label(String text) {
        Label label = new Label(text);
        label.getStyleClass().add("muted");
        label.setMinWidth(Region.USE_PREF_SIZE);
        return label;
    }

    /** Shows the tracks as they are now; nothing at all where no input feeds one. */
    void show() {
        List<Track> fed = model.fed();
        setVisible(!fed.isEmpty());
        setManaged(!fed.isEmpty());
        if (!rows.stream()
                .map(InputRow::track)
                .toList()
                .equals(fed.stream().map(Track::id).toList())) {
            rows = fed.stream()
                    .map(track -> new InputRow(model, session.recordings(), track.id()))
                    .toList();
            lines.getChildren().setAll(rows);
        }
        RecordingSettings zone = model.session().rack().recording();
        average.setValue(zone.averageDbfs());
        peakFrom.setValue(zone.peakFromDbfs());
        peakTo.setValue(zone.peakToDbfs());
        showRows();
    }

    private void showRows() {
        rows.forEach(row -> row.show(session.recordings().markedProperty().get().contains(row.track())));
    }
}
