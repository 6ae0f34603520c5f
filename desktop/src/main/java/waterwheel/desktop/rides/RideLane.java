package waterwheel.desktop.rides;

import java.util.Locale;
import java.util.Optional;
import javafx.geometry.Pos;
import javafx.scene.control.Label;
import javafx.scene.control.ToggleButton;
import javafx.scene.layout.HBox;
import javafx.scene.layout.Priority;
import javafx.scene.layout.VBox;
import waterwheel.core.edit.Edit;
import waterwheel.core.edit.RideEdits;
import waterwheel.core.rides.Control;
import waterwheel.core.rides.Ride;
import waterwheel.core.rides.Scale;
import waterwheel.core.session.ControlId;
import waterwheel.core.session.Controls;
import waterwheel.core.session.Session;
import waterwheel.desktop.controls.Hint;
import waterwheel.desktop.controls.SmallButton;
import waterwheel.desktop.controls.ValueField;

/** A row for a ride: its name, what it reads at the playhead, its offset, and its picture. */
final class RideLane extends HBox {
    static final double HEAD_WIDTH = 176;
    static final double LEAST_HEIGHT = 84;
    static final double MOST_HEIGHT = 150;

    private final RidesModel model;
    private final ControlId id;
    private final LanePicture picture;
    private final Label name = new Label();
    private final Label reading = new Label();
    private final ToggleButton suspended = new ToggleButton("Suspend");
    private final SmallButton remove =
            new SmallButton("Remove", "Take the curve away; the control stands where it is set");
    private final ValueField offset;
    private long drawn = -1;
    /** Where the song stood when the reading was taken. */
    private long read = -1;

    RideLane(RidesModel model, ControlId id) {
        super(8);
        this.model = model;
        this.id = id;
        picture = new LanePicture(model, id);
        getStyleClass().add("ride-lane");
        name.getStyleClass().add("stage-name");
        name.setMinWidth(0);
        Hint.wholeText(name);
        reading.getStyleClass().addAll("figure", "muted");
        reading.setMinWidth(0);
        Hint.wholeText(reading);
        suspended.getStyleClass().add("small");
        Hint.on(suspended, "Let the control stand where it is set; the curve waits");
        suspended.setMinWidth(USE_PREF_SIZE);
        suspended.setOnAction(event -> edit(RideEdits.suspend(session(), id, suspended.isSelected())));
        remove.setOnAction(event -> edit(RideEdits.remove(session(), id)));
        Control control = Controls.control(session(), id);
        String unit =
                switch (control.scale()) {
                    case OCTAVES -> "oct";
                    case SWITCH -> "";
                    case PLAIN -> control.unit().startsWith("dB") ? "dB" : control.unit();
                };
        int decimals = unit.equals("dB") ? 1 : 2;
        offset = new ValueField(
                "Offset on top of what is written",
                unit,
                decimals,
                unit.equals("dB") ? 0.1 : 0.01,
                value -> edit(RideEdits.offset(session(), id, value)));
        offset.setPrefColumnCount(5);
        boolean offsets = control.scale() != Scale.SWITCH;
        Label on = new Label("Offset");
        on.getStyleClass().add("muted");
        on.setMinWidth(USE_PREF_SIZE);
        HBox second = offsets ? new HBox(4, on, offset) : new HBox(4);
        second.setAlignment(Pos.CENTER_LEFT);
        HBox third = new HBox(4, suspended, remove);
        VBox head = new VBox(1, name, reading, second, third);
        head.setMinWidth(HEAD_WIDTH);
        head.setMaxWidth(HEAD_WIDTH);
        head.setAlignment(Pos.CENTER_LEFT);
        HBox.setHgrow(picture, Priority.ALWAYS);
        getChildren().addAll(head, picture);
        update();
    }

    ControlId id() {
        return id;
    }

    private Session session() {
        return model.session().session();
    }

    private void edit(Edit edit) {
        model.session().edit(edit);
    }

    /** Shows what the session has become. */
    void update() {
        if (!Controls.has(session(), id)) {
            return;
        }
        Optional<Ride> present = Controls.ride(session(), id);
        Ride ride = present.orElseGet(() -> Controls.still(session(), id));
        // What is only proposed has nothing yet that could be changed.
        suspended.setDisable(present.isEmpty());
        remove.setDisable(present.isEmpty());
        offset.setDisable(present.isEmpty());
        boolean own = id.owner().equals(model.channel());
        String control = Controls.name(session(), id);
        name.setText(
                own ? control : "VCA " + Controls.ownerName(session(), id) + ": " + control.toLowerCase(Locale.ROOT));
        suspended.setSelected(ride.suspended());
        offset.setValue(ride.offset());
        showReading();
        picture.requestLayout();
    }

    /** What it reads at the playhead, and what that comes to with the VCAs. */
    void showReading() {
        if (!Controls.has(session(), id)) {
            return;
        }
        read = model.playhead();
        LaneScale scale = new LaneScale(Controls.control(session(), id));
        String text = scale.text(Controls.reading(session(), id, read));
        if (model.hasResult(id)) {
            double whole = Controls.result(session(), id.owner(), model.above(), read);
            text += ", with VCAs " + scale.text(whole);
        }
        reading.setText(text);
    }

    void movePlayhead() {
        picture.placePlayhead();
        showReading();
    }

    /** Draws what there is at a state of the view; once for each, as it comes into sight, and where the song has moved on. */
    void draw(long state) {
        if (read != model.playhead()) {
            movePlayhead();
        }
        if (drawn != state) {
            drawn = state;
            picture.requestLayout();
        }
    }
}
