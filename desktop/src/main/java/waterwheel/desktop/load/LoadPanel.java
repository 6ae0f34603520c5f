package waterwheel.desktop.load;

import java.util.Comparator;
import java.util.List;
import java.util.stream.Collectors;
import javafx.geometry.Pos;
import javafx.scene.control.Label;
import javafx.scene.control.ListView;
import javafx.scene.layout.HBox;
import javafx.scene.layout.Priority;
import javafx.scene.layout.Region;
import javafx.util.Subscription;
import org.jspecify.annotations.Nullable;
import waterwheel.core.load.LateBlock;
import waterwheel.core.load.Load;
import waterwheel.core.load.PartLoad;
import waterwheel.core.session.Channel;
import waterwheel.core.session.Session;
import waterwheel.core.units.LevelText;
import waterwheel.desktop.controls.ColumnLabel;
import waterwheel.desktop.controls.Hint;
import waterwheel.desktop.controls.Shares;
import waterwheel.desktop.controls.SmallButton;
import waterwheel.desktop.controls.SmallChoice;
import waterwheel.desktop.frame.BottomPanel;
import waterwheel.desktop.frame.WorkLine;
import waterwheel.desktop.model.Loads;
import waterwheel.desktop.model.SessionModel;

/** What every channel and slot takes of a block's time, the dearest first unless said otherwise. */
public final class LoadPanel extends BottomPanel {
    private static final double HEIGHT = 230;
    private static final int TOLD = 3;

    /** How the list is sorted. */
    private enum Order {
        USUAL("by what it takes"),
        WORST("by the worst"),
        SAVES("by what freezing saves"),
        NAME("by name"),
        SIGNAL("as the signal flows");

        private final String label;

        Order(String label) {
            this.label = label;
        }

        private String label() {
            return label;
        }

        private Comparator<LoadRow> comparator() {
            return switch (this) {
                case USUAL -> Comparator.comparingDouble(row -> -row.load().usual());
                case WORST -> Comparator.comparingDouble(row -> -row.load().worst());
                case SAVES -> Comparator.comparingDouble(row -> -row.saves().orElse(-1));
                case NAME -> Comparator.comparing(LoadRow::channel, String.CASE_INSENSITIVE_ORDER);
                // As they come.
                case SIGNAL -> Comparator.comparingInt(row -> 0);
            };
        }
    }

    private final SessionModel model;
    private final Label whole = new Label();
    private final Label late = new Label();
    private final ListView<LoadRow> list = new ListView<>();
    private final SmallChoice<Order> order =
            new SmallChoice<>(List.of(Order.values()), Order::label, "Sorted", "How the list is sorted");
    /** While the list is filled anew, its selection is not the user's. */
    private boolean refreshing;

    public LoadPanel(SessionModel model, WorkLine work) {
        this.model = model;
        getStyleClass().add("load-panel");
        Label title = new Label("Load");
        title.getStyleClass().add("panel-title");
        title.setMinWidth(USE_PREF_SIZE);
        whole.getStyleClass().add("figure");
        whole.setMinWidth(0);
        Hint.wholeText(whole);
        late.getStyleClass().add("muted");
        late.setMinWidth(0);
        Hint.wholeText(late);
        order.setValue(Order.USUAL);
        order.setOnAction(event -> show(model.transport().loads().loadProperty().get()));
        SmallButton measure = new SmallButton(
                "Measure",
                "Run ten seconds of the song from its place now, unheard, and tell what they take. While it plays the"
                        + " list follows by itself.");
        measure.setOnAction(event -> measure(work));
        SmallButton close = new SmallButton("Close", "Put the load away");
        close.setOnAction(event -> toggle());
        Region gap = new Region();
        HBox.setHgrow(gap, Priority.ALWAYS);
        HBox first = new HBox(8, title, whole, gap, order, measure, close);
        first.setAlignment(Pos.CENTER_LEFT);
        Label places = new Label("Share of a block’s time");
        places.setMinWidth(0);
        HBox.setHgrow(places, Priority.ALWAYS);
        places.setMaxWidth(Double.MAX_VALUE);
        HBox heads = new HBox(
                8,
                new ColumnLabel("Channel", LoadCell.CHANNEL_WIDTH),
                new ColumnLabel("What", LoadCell.WHAT_WIDTH),
                places,
                head("usual", "The median of the last seconds"),
                head("worst", "The most of one block in the last ten seconds"),
                head("freeze saves", "What freezing the channel up to this slot would save, all before it included"));
        heads.getStyleClass().add("load-heads");
        list.setCellFactory(view -> new LoadCell());
        Hint.on(list, "Choose a line to select its channel");
        list.setAccessibleText("What every channel and slot takes");
        list.setPlaceholder(new Label("Nothing was measured yet: play, or choose Measure."));
        list.setPrefHeight(HEIGHT);
        list.setMinHeight(HEIGHT);
        list.getSelectionModel().selectedItemProperty().subscribe(this::select);
        getChildren().addAll(first, late, heads, list);
        escapesFrom(list);
    }

    private static Label head(String name, String tip) {
        Label label = new ColumnLabel(name, LoadCell.FIGURE_WIDTH, Pos.CENTER_RIGHT);
        Hint.on(label, tip);
        return label;
    }

    private void measure(WorkLine work) {
        Session asked = model.session();
        long from = Math.round(model.transport().secondsProperty().get() * asked.sampleRateHz());
        work.start(
                "Measuring the load",
                progress -> Loads.measured(model, asked, from, progress),
                model.transport().loads()::show);
    }

    @Override
    protected Subscription opened() {
        list.requestFocus();
        return model.transport().loads().loadProperty().subscribe(this::show);
    }

    private void select(@Nullable LoadRow row) {
        if (row != null && !refreshing) {
            row.load()
                    .part()
                    .channel()
                    .flatMap(model.session()::find)
                    .map(Channel::id)
                    .ifPresent(model::select);
        }
    }

    private void show(@Nullable Load load) {
        if (load == null) {
            return;
        }
        PartLoad all = load.whole();
        whole.setText("all: " + Shares.percent(all.usual()) + " of a block of "
                + model.session().rack().blockFrames() + " frames, at worst " + Shares.percent(all.worst()));
        late.setText(late(load));
        late.setVisible(!late.getText().isEmpty());
        late.setManaged(late.isVisible());
        LoadRow chosen = list.getSelectionModel().getSelectedItem();
        List<LoadRow> rows = LoadRow.of(load, model.session()).stream()
                .sorted(order.getValue().comparator())
                .toList();
        refreshing = true;
        list.getItems().setAll(rows);
        rows.stream()
                .filter(row ->
                        chosen != null && row.load().part().equals(chosen.load().part()))
                .findFirst()
                .ifPresent(list.getSelectionModel()::select);
        refreshing = false;
    }

    private String late(Load load) {
        if (load.lateCount() == 0) {
            return "";
        }
        return load.lateCount() + (load.lateCount() == 1 ? " block was" : " blocks were") + " late. The last: "
                + load.lateBlocks().stream().limit(TOLD).map(this::inWords).collect(Collectors.joining("; "));
    }

    private String inWords(LateBlock one) {
        double seconds = (double) one.frame() / model.session().sampleRateHz();
        return LevelText.time(seconds) + " by " + LevelText.signed(one.share(), 1, false) + " times its time, at work: "
                + LoadRow.inWords(one.atWork(), model.session());
    }
}
