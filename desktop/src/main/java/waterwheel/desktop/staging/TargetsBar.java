package waterwheel.desktop.staging;

import java.util.function.DoubleConsumer;
import javafx.geometry.Pos;
import javafx.scene.control.Label;
import javafx.scene.layout.HBox;
import javafx.scene.layout.Region;
import waterwheel.core.edit.Edits;
import waterwheel.core.session.Session;
import waterwheel.core.session.StagingTargets;
import waterwheel.desktop.controls.DbField;
import waterwheel.desktop.model.SessionModel;

/** What the session's channels are staged to, each value typed or stepped. */
final class TargetsBar extends HBox {
    private final SessionModel model;
    private final DbField nominal;
    private final DbField percussive;
    private final DbField guard;
    private final DbField noise;

    TargetsBar(SessionModel model) {
        super(6);
        this.model = model;
        setAlignment(Pos.BASELINE_LEFT);
        nominal = field(
                "Average of sustained tracks, which reads 0 VU",
                db -> model.edit(Edits.nominal(Math.clamp(db, -24, -12))));
        percussive = field("Peak of percussive tracks", db -> {
            StagingTargets now = targets();
            set(new StagingTargets(Math.clamp(db, -24, 0), now.guardPeakDbfs(), now.noiseFloorDbfs()));
        });
        guard = field("Peak that no proposed trim passes", db -> {
            StagingTargets now = targets();
            set(new StagingTargets(now.percussivePeakDbfs(), Math.clamp(db, -24, 0), now.noiseFloorDbfs()));
        });
        noise = field("Noise floor that no trim should raise above", db -> {
            StagingTargets now = targets();
            set(new StagingTargets(now.percussivePeakDbfs(), now.guardPeakDbfs(), Math.clamp(db, -120, 0)));
        });
        getChildren()
                .addAll(
                        name("Average"),
                        nominal,
                        name("Percussive peak"),
                        percussive,
                        name("Peak guard"),
                        guard,
                        name("Noise below"),
                        noise);
        model.keep(model.historyProperty().subscribe(history -> show(history.present())));
    }

    private static DbField field(String name, DoubleConsumer change) {
        DbField field = new DbField(name, "dBFS", change);
        field.setPrefColumnCount(6);
        return field;
    }

    private static Label name(String words) {
        Label label = new Label(words);
        label.getStyleClass().add("muted");
        label.setMinWidth(Region.USE_PREF_SIZE);
        return label;
    }

    private StagingTargets targets() {
        return model.session().staging();
    }

    private void set(StagingTargets targets) {
        model.edit(Edits.staging(targets));
    }

    private void show(Session session) {
        nominal.setValue(session.nominalDbfs());
        percussive.setValue(session.staging().percussivePeakDbfs());
        guard.setValue(session.staging().guardPeakDbfs());
        noise.setValue(session.staging().noiseFloorDbfs());
    }
}
