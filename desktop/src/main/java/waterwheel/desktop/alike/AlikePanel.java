package waterwheel.desktop.alike;

import java.io.File;
import java.nio.file.Path;
import javafx.geometry.Pos;
import javafx.scene.control.CheckBox;
import javafx.scene.control.Label;
import javafx.scene.control.ListView;
import javafx.scene.layout.HBox;
import javafx.scene.layout.Priority;
import javafx.scene.layout.Region;
import javafx.stage.DirectoryChooser;
import javafx.util.Subscription;
import org.jspecify.annotations.Nullable;
import waterwheel.core.edit.MixedAlike;
import waterwheel.core.errors.WaterwheelException;
import waterwheel.core.session.Session;
import waterwheel.core.store.SessionFolder;
import waterwheel.desktop.controls.Hint;
import waterwheel.desktop.controls.SmallButton;
import waterwheel.desktop.frame.BottomPanel;
import waterwheel.desktop.model.SessionModel;

/** What another session's flow would change here, a line each; taken as one step or not at all. */
public final class AlikePanel extends BottomPanel {
    private static final double HEIGHT = 132;
    private static final double ROW = 20;

    private final SessionModel model;
    private final Label told = new Label();
    private final CheckBox rides = new CheckBox("Take rides too");
    private final ListView<String> changes = new ListView<>();
    private final SmallButton take = new SmallButton("Mix alike", "Take all of this, as one step that can be undone");
    private @Nullable Path folder;
    private @Nullable Session other;

    /** @param toMap shows the map of the session */
    public AlikePanel(SessionModel model, Runnable toMap) {
        this.model = model;
        Label title = new Label("Mixed alike");
        title.getStyleClass().add("panel-title");
        title.setMinWidth(USE_PREF_SIZE);
        told.setMinWidth(0);
        Hint.wholeText(told);
        Hint.on(rides, "Take the other session's curves, frame by frame, with the rest");
        rides.setMinWidth(USE_PREF_SIZE);
        rides.selectedProperty().subscribe(on -> show());
        SmallButton choose = new SmallButton("Another session…", "Choose the session whose flow is laid over this one");
        choose.setOnAction(event -> choose());
        take.getStyleClass().add("accent");
        take.setOnAction(event -> take());
        SmallButton map = new SmallButton("On the map", "Show the map as it would be, with what changes marked");
        map.setOnAction(event -> toMap.run());
        SmallButton close = new SmallButton("Close", "Put this away; nothing changes");
        close.setOnAction(event -> toggle());
        Region gap = new Region();
        HBox.setHgrow(gap, Priority.ALWAYS);
        HBox first = new HBox(8, title, told, gap, rides, choose, map, take, close);
        first.setAlignment(Pos.CENTER_LEFT);
        changes.setPrefHeight(HEIGHT);
        changes.setMinHeight(HEIGHT);
        changes.setFixedCellSize(ROW);
        changes.getStyleClass().add("channel-list");
        changes.setAccessibleText("What would change");
        Hint.on(changes, "What the other session's flow would change here");
        changes.setPlaceholder(new Label("Choose the session whose buses, returns, VCAs, link groups, inserts, sends,"
                + " faders and targets this one is to have."));
        getChildren().addAll(first, changes);
        escapesFrom(changes);
    }

    private void choose() {
        DirectoryChooser chooser = new DirectoryChooser();
        chooser.setTitle("Session whose flow is taken");
        File chosen = chooser.showDialog(getScene().getWindow());
        if (chosen != null) {
            compare(chosen.toPath());
        }
    }

    /** Shows what a session's flow would change here. */
    public void compare(Path session) {
        try {
            other = SessionFolder.load(session).session();
            folder = session;
            open();
        } catch (WaterwheelException e) {
            model.tell(String.valueOf(e.getMessage()));
        }
    }

    @Override
    protected Subscription opened() {
        Subscription shown = model.historyProperty().subscribe(history -> show());
        return shown.and(() -> model.previewProperty().set(null));
    }

    private @Nullable MixedAlike laid() throws WaterwheelException {
        Session theirs = other;
        Path where = folder;
        return theirs == null || where == null
                ? null
                : MixedAlike.of(theirs, where, model.session(), rides.isSelected());
    }

    private void show() {
        take.setDisable(true);
        changes.getItems().clear();
        model.previewProperty().set(null);
        try {
            MixedAlike laid = laid();
            if (laid == null) {
                told.setText("");
                return;
            }
            changes.getItems().setAll(laid.sentences());
            model.previewProperty().set(laid.sentences().isEmpty() ? null : laid);
            take.setDisable(laid.sentences().isEmpty());
            told.setText((laid.sentences().isEmpty() ? "This session is mixed alike already. " : "")
                    + laid.matched() + " tracks matched"
                    + (laid.unmatched().isEmpty() ? "" : "; as they are: " + String.join(", ", laid.unmatched()))
                    + (laid.wanting().isEmpty() ? "" : "; not here: " + String.join(", ", laid.wanting())));
        } catch (WaterwheelException e) {
            told.setText(e.getMessage());
        }
    }

    private void take() {
        try {
            MixedAlike laid = laid();
            if (laid != null) {
                model.edit(laid.edit());
            }
        } catch (WaterwheelException e) {
            model.tell(String.valueOf(e.getMessage()));
        }
    }
}
