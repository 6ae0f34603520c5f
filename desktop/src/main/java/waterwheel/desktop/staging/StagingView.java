package waterwheel.desktop.staging;

import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.stream.Stream;
import javafx.geometry.Pos;
import javafx.scene.control.Label;
import javafx.scene.control.ScrollPane;
import javafx.scene.input.KeyCode;
import javafx.scene.input.KeyEvent;
import javafx.scene.layout.HBox;
import javafx.scene.layout.Priority;
import javafx.scene.layout.Region;
import javafx.scene.layout.VBox;
import waterwheel.core.session.Bus;
import waterwheel.core.session.Channel;
import waterwheel.core.session.ChannelId;
import waterwheel.core.session.Track;
import waterwheel.core.staging.TrimProposals;
import waterwheel.core.units.LevelText;
import waterwheel.desktop.controls.ColumnLabel;
import waterwheel.desktop.controls.Hint;
import waterwheel.desktop.controls.RowList;
import waterwheel.desktop.controls.ScaleHeader;
import waterwheel.desktop.controls.ScrollBarGap;
import waterwheel.desktop.model.SessionModel;

/** Every channel on one ruler: tracks, cues, then buses and main with the headroom that results. */
public final class StagingView extends VBox {
    static final double NAME_WIDTH = 126;
    static final double FIGURE_WIDTH = 82;
    static final double TRIM_WIDTH = 78;
    static final double PROPOSED_WIDTH = 96;

    private static final double ROW_HEIGHT = 19;
    private static final double LEAST_PINNED = 84;
    private static final double LEAST_LIST = 130;

    private final SessionModel model;
    private final StagingModel staging;
    private final ProposalBar bar;
    private final Label headroomColumn = column("Headroom", FIGURE_WIDTH - 10);
    /** In its place while gains are proposed: a louder track has a louder floor. */
    private final Label noiseColumn = column("Noise dBFS", FIGURE_WIDTH - 10);

    private final Label proposedColumn = column("Proposed", PROPOSED_WIDTH);
    private final HBox proposedMark = mark("ghost-peak", "proposed");
    private final Label nominal = new Label();
    private List<String> places = List.of();
    private final RowList<ChannelId, StagingRow> list;
    private final VBox buses = new VBox();
    private final Map<ChannelId, StagingRow> busRows = new LinkedHashMap<>();

    public StagingView(SessionModel model) {
        this.model = model;
        staging = new StagingModel(model);
        bar = new ProposalBar(model, staging);
        getStyleClass().addAll("view", "staging");
        ScrollPane scroll = new ScrollPane();
        list = new RowList<>(scroll, ROW_HEIGHT, this::made);
        scroll.setFitToWidth(true);
        scroll.setFocusTraversable(false);
        VBox.setVgrow(scroll, Priority.ALWAYS);
        list.getStyleClass().add("channels");
        // Buses and main stay in sight, whatever the list above is scrolled to.
        HBox.setHgrow(buses, Priority.ALWAYS);
        ScrollPane pinned = new ScrollPane(new HBox(buses, new ScrollBarGap(scroll)));
        pinned.setFitToWidth(true);
        pinned.setFocusTraversable(false);
        pinned.getStyleClass().add("pinned");
        buses.heightProperty().subscribe(height -> {
            double whole = Math.min(height.doubleValue() + 2, 200);
            pinned.setPrefHeight(whole);
            pinned.setMinHeight(Math.min(whole, LEAST_PINNED));
        });
        scroll.setMinHeight(LEAST_LIST);
        getChildren()
                .addAll(title(new TargetsBar(model)), bar, header(new ScrollBarGap(scroll)), scroll, pinned, legend());
        visibleProperty().subscribe(visible -> update());
        model.keep(model.historyProperty().subscribe(history -> update()));
        model.keep(model.levelsProperty().subscribe(levels -> update()));
        model.keep(
                model.selectionProperty().subscribe(selection -> rows().forEach(row -> row.showSelected(selection))));
        model.keep(model.selectedProperty().subscribe(this::bringIntoSight));
        staging.proposalsProperty().subscribe(this::showProposals);
        addEventHandler(KeyEvent.KEY_PRESSED, event -> {
            if (event.getCode() == KeyCode.ESCAPE
                    && !staging.proposalsProperty().get().isEmpty()) {
                staging.discard();
                event.consume();
            }
        });
        model.transport().listen((peaks, seconds) -> {
            if (isVisible()) {
                rows().forEach(row -> row.showLive(peaks, seconds));
            }
        });
    }

    private static HBox title(TargetsBar targets) {
        Label title = new Label("Staging");
        title.getStyleClass().add("view-title");
        title.setMinWidth(Region.USE_PREF_SIZE);
        Hint.on(title, "Whole-song levels after the trim. Drag rows to trim them, or use the arrow keys.");
        HBox line = new HBox(16, title, targets);
        line.setAlignment(Pos.BASELINE_LEFT);
        return line;
    }

    private HBox header(ScrollBarGap gap) {
        Label name = new Label("Channel");
        name.setMinWidth(NAME_WIDTH);
        ScaleHeader scale = new ScaleHeader();
        HBox.setHgrow(scale, Priority.ALWAYS);
        Region mark = new Region();
        mark.setMinWidth(4);
        HBox header = new HBox(
                mark,
                name,
                scale,
                column("Average", FIGURE_WIDTH),
                column("Peak", FIGURE_WIDTH),
                headroomColumn,
                noiseColumn,
                column("Trim", TRIM_WIDTH),
                proposedColumn);
        header.getStyleClass().add("staging-header");
        HBox.setHgrow(header, Priority.ALWAYS);
        return new HBox(header, gap);
    }

    private static Label column(String name, double width) {
        return new ColumnLabel(name, width, Pos.CENTER_RIGHT);
    }

    private void addRows() {
        List<Channel> channels = model.session().channels();
        List<RowList.Entry<ChannelId>> entries = new ArrayList<>();
        for (Channel channel : channels) {
            if (channel instanceof Track && !channel.cue()) {
                entries.add(new RowList.Entry.Row<>(channel.id()));
            }
        }
        List<Channel> cues = channels.stream().filter(Channel::cue).toList();
        if (!cues.isEmpty()) {
            entries.add(new RowList.Entry.Between<>(group("Cues, not part of the mix")));
            cues.forEach(cue -> entries.add(new RowList.Entry.Row<>(cue.id())));
        }
        list.show(entries);
        busRows.clear();
        channels.stream().filter(Bus.class::isInstance).forEach(bus -> busRows.put(bus.id(), made(bus.id())));
        buses.getChildren().setAll(group("Buses"));
        buses.getChildren().addAll(busRows.values());
    }

    /** What decides where a channel's row stands; when it changes for any of them, the rows are made anew. */
    private static String place(Channel channel) {
        return channel.id() + (channel.cue() ? " cue" : "");
    }

    /** A row that shows all there is to show now. */
    private StagingRow made(ChannelId id) {
        StagingRow row = new StagingRow(model, staging, model.session().channel(id));
        row.showProposal(staging.proposalsProperty().get());
        row.showSelected(model.selectionProperty().get());
        row.update();
        return row;
    }

    private Stream<StagingRow> rows() {
        return Stream.concat(list.made(), busRows.values().stream());
    }

    private void bringIntoSight(ChannelId selected) {
        if (isVisible()) {
            list.bring(selected);
        }
    }

    private static Label group(String name) {
        Label label = new Label(name);
        label.getStyleClass().add("group");
        label.setMaxWidth(Double.MAX_VALUE);
        return label;
    }

    private HBox legend() {
        HBox legend = new HBox(
                12,
                mark("average", "average"),
                mark("band", "3 s range"),
                mark("peak", "peak"),
                mark("noise", "noise floor"),
                mark("nominal", nominal),
                mark("target-zone", "where average or peak should lie"),
                proposedMark);
        legend.getStyleClass().addAll("legend", "level-bar");
        legend.setAlignment(Pos.CENTER_LEFT);
        return legend;
    }

    private static HBox mark(String styleClass, String words) {
        return mark(styleClass, new Label(words));
    }

    private static HBox mark(String styleClass, Label words) {
        Region sample = new Region();
        sample.getStyleClass().add(styleClass);
        boolean wide = styleClass.equals("band") || styleClass.equals("target-zone");
        int width = wide ? 16 : styleClass.equals("ghost-peak") ? 5 : 3;
        sample.setMinSize(width, 10);
        sample.setMaxSize(width, 10);
        HBox mark = new HBox(5, sample, words);
        mark.setAlignment(Pos.CENTER_LEFT);
        return mark;
    }

    /** Proposes trims for the selected tracks, or for all. */
    public void propose() {
        bar.propose();
    }

    /** Accepts all proposed trims. */
    public void acceptProposals() {
        staging.acceptAll();
    }

    /** Drops what is proposed. */
    public void discardProposals() {
        staging.discard();
    }

    /** Whether the mix that the proposals would give is measured, or nothing is proposed. */
    public boolean resultKnown() {
        return staging.proposalsProperty().get().isEmpty()
                || staging.resultingMixProperty().get() != null;
    }

    private void showProposals(TrimProposals proposals) {
        proposedColumn.setVisible(!proposals.isEmpty());
        proposedColumn.setManaged(!proposals.isEmpty());
        headroomColumn.setVisible(proposals.isEmpty());
        headroomColumn.setManaged(proposals.isEmpty());
        noiseColumn.setVisible(!proposals.isEmpty());
        noiseColumn.setManaged(!proposals.isEmpty());
        proposedMark.setVisible(!proposals.isEmpty());
        rows().forEach(row -> row.showProposal(proposals));
    }

    private void update() {
        if (!isVisible()) {
            return;
        }
        List<String> wanted =
                model.session().channels().stream().map(StagingView::place).toList();
        if (!wanted.equals(places)) {
            places = wanted;
            addRows();
        }
        nominal.setText("nominal " + LevelText.level(model.session().nominalDbfs(), "dBFS") + " = 0 VU");
        rows().forEach(StagingRow::update);
    }
}
