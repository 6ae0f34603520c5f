package waterwheel.desktop.outboard;

import java.util.ArrayList;
import java.util.List;
import javafx.application.Platform;
import javafx.geometry.Pos;
import javafx.scene.control.Label;
import javafx.scene.control.ScrollPane;
import javafx.scene.layout.HBox;
import javafx.scene.layout.Priority;
import javafx.scene.layout.Region;
import javafx.scene.layout.StackPane;
import javafx.scene.layout.VBox;
import org.jspecify.annotations.Nullable;
import waterwheel.core.captures.HardwareSlot;
import waterwheel.core.captures.PortUsers;
import waterwheel.core.rack.Loop;
import waterwheel.core.rack.PortSide;
import waterwheel.desktop.controls.Hint;
import waterwheel.desktop.controls.SmallButton;
import waterwheel.desktop.frame.WorkLine;
import waterwheel.desktop.model.SessionModel;
import waterwheel.desktop.model.Transport;

/** Ports at both sides, the loops between them with the level at each end, and the one that is looked at below. */
public final class OutboardView extends VBox {
    private final SessionModel session;
    private final OutboardModel model;
    private final PortColumn outputs;
    private final PortColumn inputs;
    private final VBox loops = new VBox();
    private final LoopLinks links = new LoopLinks();
    private final LoopDetail detail;
    private final InputList fed;
    private final InterfaceLine choices;
    private final SmallButton add =
            new SmallButton("Add loop", "Put a hardware slot at the end of the selected channel's inserts");
    private final SmallButton capture = new SmallButton(
            "Capture what is missing", "Run the song through all loops whose capture is missing or out of date");
    private final SmallButton time = new SmallButton(
            "Time all", "Find out of all loops at once how late, how loud and with which polarity they come back");
    private final SmallButton sheet = new SmallButton(
            "Recall sheet",
            "Write what stands where in the rack to a page in the session's folder, to be printed and compared later");
    private final Label takes = new Label();
    private final Label empty = new Label(
            "No signal leaves the computer yet. Select a channel and add a loop: choose an output and an input for it,"
                    + " time it, set its level, capture it.");
    private List<LoopRow> rows = List.of();

    public OutboardView(SessionModel session, WorkLine work) {
        this.session = session;
        model = new OutboardModel(session, work);
        outputs = new PortColumn(model, PortSide.OUTPUT);
        inputs = new PortColumn(model, PortSide.INPUT);
        choices = new InterfaceLine(model);
        detail = new LoopDetail(model);
        fed = new InputList(session, model);
        getStyleClass().addAll("view", "outboard");
        setMinWidth(0);
        empty.setWrapText(true);
        empty.getStyleClass().add("muted");
        loops.getStyleClass().add("loops");
        VBox middle = new VBox(header(), loops, fed);
        HBox.setHgrow(middle, Priority.ALWAYS);
        HBox bay = new HBox(32, outputs, middle, inputs);
        StackPane drawn = new StackPane(bay, links);
        VBox.setVgrow(drawn, Priority.ALWAYS);
        ScrollPane scroll = new ScrollPane(new VBox(8, drawn, detail));
        scroll.setFitToWidth(true);
        scroll.setFitToHeight(true);
        scroll.setFocusTraversable(false);
        VBox.setVgrow(scroll, Priority.ALWAYS);
        getChildren().addAll(title(), settings(), scroll);
        session.keep(session.historyProperty().subscribe(history -> update()));
        session.keep(session.levelsProperty().subscribe(levels -> update()));
        session.keep(session.selectedProperty().subscribe(id -> {
            model.followSelection();
            update();
        }));
        session.keep(session.transport().portsProperty().subscribe(open -> update()));
        session.transport().watch((peaks, seconds) -> {
            if (isVisible()) {
                fed.showLevels();
            }
        });
        model.selectedProperty().subscribe(slot -> update());
        model.foundProperty().subscribe(found -> update());

        drawn.layoutBoundsProperty().subscribe(bounds -> Platform.runLater(links::draw));
        loops.layoutBoundsProperty().subscribe(bounds -> Platform.runLater(links::draw));
    }

    private HBox title() {
        Label title = new Label("Outboard");
        title.getStyleClass().add("view-title");
        title.setMinWidth(Region.USE_PREF_SIZE);
        Hint.on(title, "What leaves by the interface, goes through a unit, and comes back");
        Region gap = new Region();
        HBox.setHgrow(gap, Priority.ALWAYS);
        HBox line = new HBox(8, title, gap, choices);
        line.setAlignment(Pos.CENTER_LEFT);
        return line;
    }

    private HBox settings() {
        add.setOnAction(event -> model.addLoop());
        time.setOnAction(event -> timeAll());
        capture.setOnAction(event -> model.capture(model.wanting()));
        sheet.setOnAction(event -> model.writeSheet());
        takes.getStyleClass().add("muted");
        takes.setMinWidth(0);
        Region gap = new Region();
        HBox.setHgrow(gap, Priority.ALWAYS);
        HBox line = new HBox(8, takes, gap, add, time, capture, sheet);
        line.setAlignment(Pos.CENTER_LEFT);
        line.getStyleClass().add("settings");
        return line;
    }

    /** What stands under each other in the loops. */
    private static HBox header() {
        HBox header = new HBox(
                10,
                column("Channel, unit", LoopRow.NAME_WIDTH),
                column("Sent: dBFS, dBu", -1),
                column("Back: dBFS, dBu", -1),
                column("Time, capture", LoopRow.STATE_WIDTH));
        header.getStyleClass().add("loop-header");
        return header;
    }

    /** @param width in pixels; -1 for what is left, shared evenly */
    private static Label column(String name, double width) {
        Label label = new Label(name);
        label.getStyleClass().add("muted");
        if (width > 0) {
            label.setMinWidth(width);
            label.setMaxWidth(width);
        } else {
            label.setPrefWidth(100);
            label.setMinWidth(0);
            label.setMaxWidth(Double.MAX_VALUE);
            Hint.on(label, "Gated average over the whole song: at the converter, and at the socket");
            HBox.setHgrow(label, Priority.ALWAYS);
        }
        return label;
    }

    /** Times all loops, as its button does. */
    public void timeAll() {
        model.time(model.slots());
    }

    /** Whether all loops were timed since the session was opened. */
    public boolean timed() {
        return model.foundProperty().get().keySet().containsAll(model.slots());
    }

    private void update() {
        model.follow();
        List<HardwareSlot> slots = model.slots();
        if (!slots.equals(rows.stream().map(LoopRow::slot).toList()) || rows.isEmpty()) {
            rows = slots.stream().map(slot -> new LoopRow(model, slot)).toList();
            loops.getChildren().setAll(rows.isEmpty() ? List.of(empty) : rows);
        }
        HardwareSlot chosen = model.selectedProperty().get();
        rows.forEach(row -> row.show(row.slot().equals(chosen)));
        PortUsers users = PortUsers.of(session.session());
        Transport.Interface open = session.transport().portsProperty().get();
        outputs.show(session.session(), users, open.outputs());
        inputs.show(session.session(), users, open.inputs());
        choices.show(open);
        add.setText("Add loop to " + model.selectedChannelName());
        time.setDisable(slots.isEmpty());
        String wanting = model.captureInWords();
        takes.setText(wanting);
        capture.setDisable(wanting.isEmpty());
        detail.show();
        fed.show();
        showLinks(chosen);
    }

    private void showLinks(@Nullable HardwareSlot chosen) {
        List<LoopLinks.Link> all = new ArrayList<>();
        for (LoopRow row : rows) {
            Loop loop = row.slot().insert(session.session()).processor().loop();
            int planes = session.session().channel(row.slot().channel()).planes();
            boolean lit = row.slot().equals(chosen);
            loop.sends(planes).forEach(port -> all.add(new LoopLinks.Link(outputs.socket(port), row, lit)));
            loop.returns(planes).forEach(port -> all.add(new LoopLinks.Link(row, inputs.socket(port), lit)));
        }
        links.show(all);
    }
}
