package waterwheel.desktop.meters;

import java.util.ArrayList;
import java.util.List;
import javafx.geometry.Pos;
import javafx.scene.control.Button;
import javafx.scene.control.Label;
import javafx.scene.control.ScrollPane;
import javafx.scene.layout.HBox;
import javafx.scene.layout.Priority;
import javafx.scene.layout.Region;
import javafx.scene.layout.VBox;
import javafx.util.Subscription;
import waterwheel.core.playback.HeldMeters;
import waterwheel.core.session.Channel;
import waterwheel.core.session.ChannelId;
import waterwheel.desktop.controls.Hint;
import waterwheel.desktop.controls.SmallButton;
import waterwheel.desktop.frame.BottomPanel;
import waterwheel.desktop.model.SessionModel;

/**
 * Live meters of the selected channels: VU at each channel's reference, peak hold, and overs with their places. They
 * begin anew by themselves when something before them changes.
 */
public final class MetersLine extends BottomPanel {
    private static final double ROW_HEIGHT = 24;
    private static final int ROWS_IN_SIGHT = 4;

    private final SessionModel model;
    private final VBox list = new VBox();
    private final Label reset = new Label();
    private List<MeterRow> rows = List.of();
    private List<ChannelId> shown = List.of();

    public MetersLine(SessionModel model) {
        this.model = model;
        getStyleClass().setAll("meters");
        Label title = new Label("Meters of the selection, after the trim");
        reset.getStyleClass().add("muted");
        reset.setMinWidth(0);
        title.getStyleClass().add("muted");
        Hint.on(
                title,
                "The main bus is metered after its fader. The meters begin anew by themselves when"
                        + " something before them changes");
        Region gap = new Region();
        HBox.setHgrow(gap, Priority.ALWAYS);
        Button anew = new SmallButton("Reset", "Begin all peak holds and overs anew");
        anew.setOnAction(event -> model.transport().meters().reset());
        Button close = new SmallButton("Close", "Put the meters away (Ctrl+M, Escape)");
        close.setOnAction(event -> leave());
        HBox heading = new HBox(8, title, reset, gap, anew, close);
        heading.setAlignment(Pos.CENTER_LEFT);
        ScrollPane scroll = new ScrollPane(list);
        scroll.setFitToWidth(true);
        scroll.setFocusTraversable(false);
        list.heightProperty().subscribe(height -> {
            double wanted = Math.min(height.doubleValue(), ROW_HEIGHT * ROWS_IN_SIGHT);
            scroll.setMinHeight(wanted);
            scroll.setPrefHeight(wanted);
        });
        getChildren().addAll(heading, scroll);
        model.transport().listen((peaks, seconds) -> showLive());
    }

    @Override
    protected Subscription opened() {
        return Subscription.combine(
                model.selectionProperty().subscribe(selection -> update()),
                model.historyProperty().subscribe(history -> update()));
    }

    private void update() {
        List<ChannelId> wanted = model.selection().stream().map(Channel::id).toList();
        if (!wanted.equals(shown)) {
            shown = wanted;
            rows = new ArrayList<>();
            wanted.forEach(id -> rows.add(new MeterRow(model, id)));
            list.getChildren().setAll(rows);
        }
        rows.forEach(MeterRow::update);
        // While nothing plays nobody tells of new levels.
        showLive();
    }

    private void showLive() {
        if (isVisible()) {
            boolean playing = model.transport().playingProperty().get();
            HeldMeters meters = model.transport().meters();
            rows.forEach(row -> row.show(meters.of(row.channel()), playing));
            reset.setText(rows.stream()
                    .flatMap(row -> meters.of(row.channel()).resetBy().stream())
                    .findFirst()
                    .map(reason -> "· began anew after: " + reason)
                    .orElse(""));
        }
    }
}
