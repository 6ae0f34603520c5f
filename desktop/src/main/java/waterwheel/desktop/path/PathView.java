package waterwheel.desktop.path;

import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import java.util.function.Consumer;
import javafx.geometry.Pos;
import javafx.scene.control.Label;
import javafx.scene.control.ScrollPane;
import javafx.scene.layout.HBox;
import javafx.scene.layout.Priority;
import javafx.scene.layout.VBox;
import org.jspecify.annotations.Nullable;
import waterwheel.core.inserts.Insert;
import waterwheel.core.inserts.SlotId;
import waterwheel.core.levels.ChannelLevels;
import waterwheel.core.load.Load;
import waterwheel.core.metering.Figures;
import waterwheel.core.path.Stage;
import waterwheel.core.playback.LivePeaks;
import waterwheel.core.processing.Effects;
import waterwheel.core.session.Bus;
import waterwheel.core.session.Channel;
import waterwheel.core.session.ChannelId;
import waterwheel.core.session.Track;
import waterwheel.core.units.LevelText;
import waterwheel.desktop.controls.Hint;
import waterwheel.desktop.controls.ScaleHeader;
import waterwheel.desktop.controls.TypedField;
import waterwheel.desktop.frame.WorkLine;
import waterwheel.desktop.model.SessionModel;

/** The selected channel as a level staircase: one row a stage, from source to destination, on the common scale. */
public final class PathView extends VBox {
    private final SessionModel model;
    private final ChannelTitle name;
    private final Label what = new Label();
    private final Label late = new Label();
    private final PathRows.Doors doors;
    private final VBox stairs = new VBox();
    private PathRows rows;
    private List<StageRow> stages = List.of();

    public PathView(
            SessionModel model, WorkLine work, Runnable openClips, Consumer<SlotId> openInsert, Runnable openPrints) {
        this.model = model;
        doors = new PathRows.Doors(work, openClips, openInsert, openPrints);
        rows = new PathRows(model, doors);
        name = new ChannelTitle(model);
        getStyleClass().add("path");
        setAccessibleText("Path of the selected channel");
        Label title = new Label("Path");
        title.getStyleClass().add("muted");
        title.setMinWidth(USE_PREF_SIZE);
        what.getStyleClass().add("muted");
        what.setMinWidth(0);
        Hint.wholeText(what);
        late.getStyleClass().add("muted");
        late.setWrapText(true);
        late.setMinHeight(USE_PREF_SIZE);
        late.managedProperty().bind(late.textProperty().isNotEmpty());
        Hint.on(late, "What the channel's inserts take to answer; all paths arrive together nevertheless");
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
        getChildren().addAll(heading, late, scale, scroll);
        model.keep(model.selectedProperty().subscribe(id -> update()));
        model.keep(model.historyProperty().subscribe(history -> update()));
        model.keep(model.namingProperty().subscribe((before, now) -> name.type()));
        model.keep(model.refusalsProperty().subscribe(count -> update()));
        model.keep(model.levelsProperty().subscribe(levels -> update()));
        model.keep(model.transport().loads().loadProperty().subscribe(load -> showLoad()));
        model.transport().listen(this::showLive);
    }

    private void update() {
        if (!rows.shown().id().equals(model.selectedChannel().id())) {
            turn();
        }
        Channel channel = model.selectedChannel();
        List<PathRow> shown = rows.of(channel);
        if (!shown.equals(stairs.getChildren())) {
            stairs.getChildren().setAll(shown);
            stages = shown.stream()
                    .filter(StageRow.class::isInstance)
                    .map(StageRow.class::cast)
                    .toList();
        }
        shown.forEach(row -> row.updateControl(channel));
        name.show(channel);
        what.setText(
                switch (channel) {
                    case Track track ->
                        (track.planes() == 1 ? "mono" : "stereo") + " track"
                                + track.tap()
                                        .map(tap -> ", from "
                                                + model.session()
                                                        .channel(tap.channel())
                                                        .name() + " "
                                                + tap.point().label())
                                        .orElse("");
                    case Bus bus -> bus.id().equals(model.session().mainId()) ? "main bus" : "stereo bus";
                });
        late.setText(latency(channel));
        ChannelLevels levels = levels(channel);
        Figures above = null;
        for (StageRow row : stages) {
            row.showFrozen(isFrozen(channel, row), isLastFrozen(channel, row));
            row.setNominal(model.session().referenceDbfs(channel));
            if (levels == null) {
                row.showPending();
            } else {
                Figures figures = figures(levels, row, above);
                row.show(figures, above);
                above = figures;
            }
        }
        showLoad();
    }

    /** What is known of the channel as it is: a moment after a change, levels are still those of a session before. */
    private @Nullable ChannelLevels levels(Channel channel) {
        return model.levels().session().equals(model.session())
                ? model.levels().asked(channel.id()).orElse(null)
                : null;
    }

    /** Turns from the channel that was shown to the selected one. */
    private void turn() {
        finishTyping();
        if (stairs.isPressed()) {
            // What the hand holds goes on being of the channel that it was taken at.
            rows = new PathRows(model, doors);
        } else {
            rows.show(model.selectedChannel());
        }
    }

    /** What is typed and not yet taken is of the channel that it was typed for. */
    private void finishTyping() {
        if (stairs.isFocusWithin() && getScene().getFocusOwner() instanceof TypedField field) {
            if (rows.shown().isThere()) {
                field.commit();
            } else {
                field.putBack();
            }
        }
    }

    private void showLoad() {
        Load load = model.transport().loads().loadProperty().get();
        if (load == null) {
            return;
        }
        Channel channel = model.selectedChannel();
        for (StageRow row : stages) {
            if (row.stage() == Stage.INSERT) {
                row.showLoad(load.of(channel.id(), Optional.of(new SlotId(row.part()))));
            }
        }
        rows.showLoad(channel, load);
    }

    /** Whether a stage lies in the channel's frozen sound. */
    private static boolean isFrozen(Channel channel, StageRow row) {
        if (channel.strip().freeze().isEmpty()) {
            return false;
        }
        return switch (row.stage()) {
            case SOURCE, CLIPS, INPUT, TRIM -> true;
            case INSERT ->
                channel.strip().frozenInserts().stream()
                        .anyMatch(insert -> insert.id().value().equals(row.part()));
            default -> false;
        };
    }

    private static boolean isLastFrozen(Channel channel, StageRow row) {
        List<Insert> frozen = channel.strip().frozenInserts();
        return isFrozen(channel, row)
                && (frozen.isEmpty()
                        ? row.stage() == Stage.TRIM
                        : row.part().equals(frozen.getLast().id().value()));
    }

    /** By how much the channel's inserts hold the signal up, and which of them. */
    private String latency(Channel channel) {
        int rate = model.session().sampleRateHz();
        List<String> held = new ArrayList<>();
        int frames = 0;
        for (Insert insert : channel.strip().activeInserts()) {
            int own = Effects.latencyFrames(insert.processor(), rate);
            frames += own;
            if (own > 0) {
                held.add(insert.processor().kind().label() + " " + millis(own, rate));
            }
        }
        return frames == 0 ? "" : "held up by " + millis(frames, rate) + " (" + String.join(", ", held) + ")";
    }

    private static String millis(int frames, int rate) {
        return LevelText.signed(1_000.0 * frames / rate, 2, false) + " ms";
    }

    /** A bypassed insert passes on what it gets. */
    private static Figures figures(ChannelLevels levels, StageRow row, @Nullable Figures above) {
        if (row.stage() != Stage.INSERT) {
            return levels.at(row.stage());
        }
        Optional<Figures> after = levels.after(new SlotId(row.part()));
        return after.isPresent() || above == null ? after.orElseGet(levels::first) : above;
    }

    private void showLive(LivePeaks peaks, double seconds) {
        if (model.selectedChannel().strip().rides().anyActive()) {
            stages.forEach(row -> row.updateControl(model.selectedChannel()));
        }
        ChannelId id = model.selectedChannel().id();
        double before = 0;
        for (StageRow row : stages) {
            // A bypassed insert passes on what it gets.
            Optional<Double> known = peaks.known(id, row.stage(), row.part());
            before = known.orElse(before);
            row.showLive(before, seconds);
        }
    }
}
