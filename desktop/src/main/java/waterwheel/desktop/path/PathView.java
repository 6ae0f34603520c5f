package waterwheel.desktop.path;

import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import java.util.function.Consumer;
import javafx.geometry.Pos;
import javafx.scene.Node;
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
import waterwheel.desktop.controls.ScaleHeader;
import waterwheel.desktop.controls.WholeText;
import waterwheel.desktop.frame.WorkLine;
import waterwheel.desktop.model.SessionModel;

/** The selected channel as a level staircase: one row a stage, from source to destination, on the common scale. */
public final class PathView extends VBox {
    private final SessionModel model;
    private final ChannelTitle name;
    private final Label what = new Label();
    private final WorkLine work;
    private final Runnable openClips;
    private final Consumer<SlotId> openInsert;
    private final Runnable openPrints;
    private final VBox stairs = new VBox();
    private List<StageRow> rows = List.of();
    private List<Object> shown = List.of();
    private List<Row> others = List.of();
    private @Nullable FreezeRow freeze;

    public PathView(
            SessionModel model, WorkLine work, Runnable openClips, Consumer<SlotId> openInsert, Runnable openPrints) {
        this.openPrints = openPrints;
        this.model = model;
        this.work = work;
        this.openClips = openClips;
        this.openInsert = openInsert;
        name = new ChannelTitle(model);
        getStyleClass().add("path");
        setAccessibleText("Path of the selected channel");
        Label title = new Label("Path");
        title.getStyleClass().add("muted");
        title.setMinWidth(USE_PREF_SIZE);
        what.getStyleClass().add("muted");
        what.setMinWidth(0);
        WholeText.onHover(what);
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
        model.keep(model.selectedProperty().subscribe(id -> update()));
        model.keep(model.historyProperty().subscribe(history -> update()));
        model.keep(model.namingProperty().subscribe((before, now) -> name.type()));
        model.keep(model.refusalsProperty().subscribe(count -> update()));
        model.keep(model.levelsProperty().subscribe(levels -> update()));
        model.keep(model.transport().loads().loadProperty().subscribe(load -> showLoad()));
        model.transport().listen(this::showLive);
    }

    private void update() {
        Channel channel = model.selectedChannel();
        List<Object> shape = shape(channel);
        if (!shape.equals(shown)) {
            shown = shape;
            build(channel);
        }
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
        what.setText(what.getText() + latency(channel));
        ChannelLevels levels = model.levels().asked(channel.id()).orElse(null);
        Figures above = null;
        for (StageRow row : rows) {
            row.updateControl(channel);
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
        others.forEach(row -> row.control().show(channel));
        showLoad();
    }

    private void showLoad() {
        Load load = model.transport().loads().loadProperty().get();
        if (load == null) {
            return;
        }
        Channel channel = model.selectedChannel();
        for (StageRow row : rows) {
            if (row.stage() == Stage.INSERT) {
                row.showLoad(load.of(channel.id(), Optional.of(new SlotId(row.part()))));
            }
        }
        if (freeze != null) {
            freeze.showLoad(channel, load);
        }
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

    /** By how much the channel's inserts hold the signal up, and which of them; all paths arrive together nevertheless. */
    private String latency(Channel channel) {
        int rate = model.session().sampleRateHz();
        List<String> late = new ArrayList<>();
        int frames = 0;
        for (Insert insert : channel.strip().activeInserts()) {
            int own = Effects.latencyFrames(insert.processor(), rate);
            frames += own;
            if (own > 0) {
                late.add(insert.processor().kind().label() + " " + millis(own, rate));
            }
        }
        return frames == 0 ? "" : ", held up by " + millis(frames, rate) + " (" + String.join(", ", late) + ")";
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

    /** What the rows are made for; when it changes they are made anew. */
    private static List<Object> shape(Channel channel) {
        List<Object> shape = new ArrayList<>();
        shape.add(channel.id());
        shape.add(channel.planes());
        shape.add(channel instanceof Track track && track.played().isPresent());
        channel.strip().inserts().forEach(insert -> {
            shape.add(insert.id());
            shape.add(insert.processor().kind());
        });
        channel.strip().sends().forEach(send -> shape.add(send.target()));
        return shape;
    }

    /** A row without a level of its own. */
    private record Row(Node node, StageControls.Control control) {}

    private void build(Channel channel) {
        StageControls controls = new StageControls(model, channel.id());
        FlowControls flow = new FlowControls(model, channel.id(), openInsert);
        List<StageRow> stages = new ArrayList<>();
        List<Row> plain = new ArrayList<>();
        List<Node> all = new ArrayList<>();
        switch (channel) {
            case Track track -> {
                stages.add(new StageRow(Stage.SOURCE, controls.source(track), model));
                stages.add(
                        track.played().isPresent()
                                ? new StageRow(Stage.CLIPS, "", "Notes", controls.notes(openClips, work), model)
                                : new StageRow(Stage.CLIPS, controls.clips(openClips), model));
            }
            case Bus bus -> stages.add(new StageRow(Stage.INPUT, controls.input(bus), model));
        }
        stages.add(new StageRow(Stage.TRIM, controls.trim(), model));
        for (Insert insert : channel.strip().inserts()) {
            stages.add(new StageRow(
                    Stage.INSERT, insert.id().value(), insert.processor().kind().label(), flow.insert(insert), model));
        }
        all.addAll(stages);
        Row add = row(flow.addInsert());
        plain.add(add);
        all.add(add.node());
        FreezeRow freezing = new FreezeRow(model, work, channel.id(), openPrints);
        freeze = freezing;
        Row cold = row(new StageControls.Control(freezing, freezing::show));
        plain.add(cold);
        all.add(cold.node());
        for (StageRow row : List.of(
                new StageRow(Stage.FADER, controls.fader(), model),
                new StageRow(Stage.PLACEMENT, controls.placement(channel.planes()), model))) {
            stages.add(row);
            all.add(row);
        }
        for (int i = 0; i < channel.strip().sends().size(); i++) {
            Row send = row(flow.send(i));
            plain.add(send);
            all.add(send.node());
        }
        Row branches = row(flow.branches());
        plain.add(branches);
        all.add(branches.node());
        StageRow output = new StageRow(Stage.OUTPUT, controls.output(), model);
        stages.add(output);
        all.add(output);
        rows = stages;
        others = plain;
        stairs.getChildren().setAll(all);
    }

    private static Row row(StageControls.Control control) {
        VBox box = new VBox(control.node());
        box.getStyleClass().add("branch-row");
        return new Row(box, control);
    }

    private void showLive(LivePeaks peaks, double seconds) {
        if (model.selectedChannel().strip().rides().anyActive()) {
            rows.forEach(row -> row.updateControl(model.selectedChannel()));
        }
        ChannelId id = model.selectedChannel().id();
        double before = 0;
        for (StageRow row : rows) {
            // A bypassed insert passes on what it gets.
            Optional<Double> known = peaks.known(id, row.stage(), row.part());
            before = known.orElse(before);
            row.showLive(before, seconds);
        }
    }
}
