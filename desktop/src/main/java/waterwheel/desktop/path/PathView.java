package waterwheel.desktop.path;

import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import javafx.geometry.Pos;
import javafx.scene.control.Label;
import javafx.scene.control.ScrollPane;
import javafx.scene.layout.HBox;
import javafx.scene.layout.Priority;
import javafx.scene.layout.VBox;
import org.jspecify.annotations.Nullable;
import waterwheel.core.engine.SignalId;
import waterwheel.core.levels.ChannelLevels;
import waterwheel.core.levels.LiveStages;
import waterwheel.core.levels.Stage;
import waterwheel.core.metering.Figures;
import waterwheel.core.session.Bus;
import waterwheel.core.session.Channel;
import waterwheel.core.session.ChannelId;
import waterwheel.core.session.Track;
import waterwheel.desktop.controls.ScaleHeader;
import waterwheel.desktop.model.SessionModel;

/** The selected channel as a level staircase: one row a stage, from source to destination, on the common scale. */
public final class PathView extends VBox {
    private final SessionModel model;
    private final Label name = new Label();
    private final Label what = new Label();
    private final Runnable openClips;
    private final VBox stairs = new VBox();
    private List<StageRow> rows = List.of();
    private @Nullable ChannelId shown;
    private int shownPlanes;

    public PathView(SessionModel model, Runnable openClips) {
        this.model = model;
        this.openClips = openClips;
        getStyleClass().add("path");
        setAccessibleText("Path of the selected channel");
        Label title = new Label("Path");
        title.getStyleClass().add("muted");
        name.getStyleClass().add("view-title");
        what.getStyleClass().add("muted");
        HBox heading = new HBox(8, title, name, what);
        heading.setAlignment(Pos.BASELINE_LEFT);
        stairs.getStyleClass().add("stairs");
        ScrollPane scroll = new ScrollPane(stairs);
        scroll.setFitToWidth(true);
        scroll.setFocusTraversable(false);
        VBox.setVgrow(scroll, Priority.ALWAYS);
        HBox scale = new HBox(new ScaleHeader());
        HBox.setHgrow(scale.getChildren().getFirst(), Priority.ALWAYS);
        scale.getStyleClass().add("path-scale");
        getChildren().addAll(heading, scale, scroll);
        model.selectedProperty().subscribe(id -> update());
        model.historyProperty().subscribe(history -> update());
        model.levelsProperty().subscribe(levels -> update());
        model.transport().listen(this::showLive);
    }

    private void update() {
        Channel channel = model.selectedChannel();
        if (!channel.id().equals(shown) || channel.planes() != shownPlanes) {
            shown = channel.id();
            shownPlanes = channel.planes();
            rows = build(channel);
            stairs.getChildren().setAll(rows);
        }
        name.setText(channel.name());
        what.setText(
                switch (channel) {
                    case Track track -> (track.planes() == 1 ? "mono" : "stereo") + " track";
                    case Bus bus -> bus.id().equals(model.session().mainId()) ? "main bus" : "stereo bus";
                });
        ChannelLevels levels = model.levels().asked(channel.id()).orElse(null);
        Figures above = null;
        for (StageRow row : rows) {
            row.updateControl(channel);
            row.setNominal(model.session().referenceDbfs(channel));
            if (levels == null) {
                row.showPending();
            } else {
                Figures figures = levels.at(row.stage());
                row.show(figures, above);
                above = figures;
            }
        }
    }

    private List<StageRow> build(Channel channel) {
        StageControls controls = new StageControls(model, channel.id());
        List<StageRow> built = new ArrayList<>();
        switch (channel) {
            case Track track -> {
                built.add(new StageRow(Stage.SOURCE, controls.source(track), model));
                built.add(new StageRow(Stage.CLIPS, controls.clips(openClips), model));
            }
            case Bus bus -> built.add(new StageRow(Stage.INPUT, controls.input(bus), model));
        }
        built.add(new StageRow(Stage.TRIM, controls.trim(), model));
        built.add(new StageRow(Stage.FADER, controls.fader(), model));
        built.add(new StageRow(Stage.PLACEMENT, controls.placement(channel.planes()), model));
        built.add(new StageRow(Stage.OUTPUT, controls.output(), model));
        return built;
    }

    private void showLive(Map<SignalId, float[]> peaks, double seconds) {
        Channel channel = model.selectedChannel();
        SignalId.Point point = channel instanceof Track ? SignalId.Point.SOURCE : SignalId.Point.INPUT;
        float[] planes = peaks.getOrDefault(new SignalId(channel.id(), point), new float[0]);
        LiveStages live = LiveStages.of(model.session(), channel, planes);
        rows.forEach(row -> row.showLive(live.at(row.stage()), seconds));
    }
}
