package waterwheel.desktop.meters;

import java.util.List;
import javafx.css.PseudoClass;
import javafx.geometry.Pos;
import javafx.scene.control.Label;
import javafx.scene.control.MenuItem;
import javafx.scene.layout.HBox;
import javafx.scene.layout.Priority;
import waterwheel.core.playback.HeldMeters;
import waterwheel.core.session.Channel;
import waterwheel.core.session.ChannelId;
import waterwheel.core.units.LevelText;
import waterwheel.desktop.controls.Hint;
import waterwheel.desktop.controls.SmallMenu;
import waterwheel.desktop.model.SessionModel;

/** One channel's meter: the needle's place on the VU scale, the highest sample, and the overs, each a place to go to. */
final class MeterRow extends HBox {
    private static final PseudoClass OVER = PseudoClass.getPseudoClass("over");
    private static final int MOST_LISTED = 30;
    /** Goes a little before the over, so that it is heard coming. */
    private static final double BEFORE_SECONDS = 1;

    private final SessionModel model;
    private final ChannelId id;
    private final Label name = new Label();
    private final VuScale scale = new VuScale();
    private final Label vu = figure(92, "VU now: 0 VU is a sine at the channel's reference level");
    private final Label peak = figure(108, "Highest sample since the meter began");
    private final SmallMenu overs =
            new SmallMenu("no overs", "How often it went over full scale, and where; choosing a place goes to it");
    private int listed = -1;

    MeterRow(SessionModel model, ChannelId id) {
        super(10);
        this.model = model;
        this.id = id;
        getStyleClass().add("meter-row");
        setAlignment(Pos.CENTER_LEFT);
        name.setMinWidth(138);
        name.setMaxWidth(138);
        HBox.setHgrow(scale, Priority.ALWAYS);
        overs.setMinWidth(92);
        getChildren().addAll(name, scale, vu, peak, overs);
    }

    private static Label figure(double width, String explanation) {
        Label label = new Label();
        label.getStyleClass().add("figure");
        label.setMinWidth(width);
        label.setAlignment(Pos.CENTER_RIGHT);
        Hint.on(label, explanation);
        return label;
    }

    ChannelId channel() {
        return id;
    }

    void update() {
        model.session().find(id).map(Channel::name).ifPresent(name::setText);
    }

    void show(HeldMeters.Reading reading, boolean playing) {
        Channel channel = model.session().find(id).orElse(null);
        if (channel == null) {
            return;
        }
        double now = reading.vuDbfs() - model.session().referenceDbfs(channel);
        scale.show(playing ? now : Double.NEGATIVE_INFINITY);
        boolean resting = !playing || now < VuScale.LOWEST_VU;
        vu.setText(
                resting ? "below " + LevelText.signed(VuScale.LOWEST_VU, 0, true) + " VU" : LevelText.level(now, "VU"));
        boolean none = reading.peakDbfs() == Double.NEGATIVE_INFINITY;
        peak.setText(none ? "no peak yet" : "peak " + LevelText.level(reading.peakDbfs(), "dBFS"));
        peak.pseudoClassStateChanged(OVER, reading.peakDbfs() > 0);
        if (reading.overs() != listed) {
            listed = reading.overs();
            list(reading);
        }
    }

    private void list(HeldMeters.Reading reading) {
        overs.setText(reading.overs() == 0 ? "no overs" : reading.overs() == 1 ? "1 over" : reading.overs() + " overs");
        overs.setDisable(reading.overs() == 0);
        overs.setAccessibleText(name.getText() + ": " + overs.getText());
        overs.getItems().clear();
        List<HeldMeters.Over> places = reading.places();
        for (HeldMeters.Over over : places.subList(0, Math.min(MOST_LISTED, places.size()))) {
            MenuItem item = new MenuItem(
                    "at " + LevelText.time(over.atSeconds()) + ", " + LevelText.level(over.peakDbfs(), "dBFS"));
            item.setOnAction(event -> model.transport().seek(Math.max(0, over.atSeconds() - BEFORE_SECONDS)));
            overs.getItems().add(item);
        }
        if (reading.overs() > overs.getItems().size()) {
            MenuItem more =
                    new MenuItem("and " + (reading.overs() - overs.getItems().size()) + " more");
            more.setDisable(true);
            overs.getItems().add(more);
        }
    }
}
