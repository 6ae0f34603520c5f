package waterwheel.desktop.rides;

import java.nio.file.Path;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.function.Consumer;
import java.util.function.Function;
import javafx.application.Platform;
import javafx.beans.property.ObjectProperty;
import javafx.geometry.Pos;
import javafx.scene.control.ChoiceBox;
import javafx.scene.control.Label;
import javafx.scene.control.MenuItem;
import javafx.scene.control.ScrollPane;
import javafx.scene.control.ToggleButton;
import javafx.scene.layout.HBox;
import javafx.scene.layout.Priority;
import javafx.scene.layout.Region;
import javafx.scene.layout.VBox;
import javafx.util.Subscription;
import org.jspecify.annotations.Nullable;
import waterwheel.core.edit.Edit;
import waterwheel.core.edit.RideEdits;
import waterwheel.core.edit.RideTake;
import waterwheel.core.rides.CurveRange;
import waterwheel.core.session.Channel;
import waterwheel.core.session.ControlId;
import waterwheel.core.session.Controls;
import waterwheel.core.session.Section;
import waterwheel.core.session.Session;
import waterwheel.core.units.LevelText;
import waterwheel.desktop.controls.Hint;
import waterwheel.desktop.controls.RowList;
import waterwheel.desktop.controls.SmallButton;
import waterwheel.desktop.controls.SmallMenu;
import waterwheel.desktop.controls.ValueField;
import waterwheel.desktop.controls.Words;
import waterwheel.desktop.model.RideTakes;
import waterwheel.desktop.model.SessionModel;

/** Rides: the song's time with the selected channel's level, and below it all its curves as lanes on one time line. */
public final class RidesView extends VBox implements AutoCloseable {
    private final RidesModel model;
    private final SongTime time;
    private final ScrollPane scroll = new ScrollPane();
    /** The lanes; those out of sight of many are not in the picture, but kept. */
    private final RowList<ControlId, RideLane> lanes = new RowList<>(scroll, RideLane.LEAST_HEIGHT, this::lane);

    private final Map<ControlId, RideLane> known = new HashMap<>();
    private final Label title = new Label();
    private final Label empty = new Label();
    private final SmallMenu add =
            new SmallMenu("Ride a control", "Give a control of this channel, or of a VCA above it, a curve");
    private final SmallMenu room =
            new SmallMenu("Make room for", "Propose that the selected channels step back while another one is active");
    private final ProposalBar proposal;
    private final RidesFiles files;
    private final SmallMenu copy = new SmallMenu(
            "Copy to", "Copy the stretch's curves to another section, or to another channel: as in the first chorus");
    private final Label stretch = new Label();
    private final HBox rangeTools = new HBox(6);
    private final ValueField shift;
    private final ValueField scale;
    private final ValueField offset;
    /** Counts what changed of all that lanes show. */
    private long state;

    private Subscription subscriptions = Subscription.EMPTY;

    public RidesView(SessionModel session) {
        model = new RidesModel(session);
        time = new SongTime(model);
        proposal = new ProposalBar(model);
        files = new RidesFiles(session);
        getStyleClass().add("view");
        title.getStyleClass().add("view-title");
        title.setMinWidth(0);
        add.setOnShowing(event -> fillAdd());
        room.setOnShowing(event -> fillRoom());
        SmallButton held = new SmallButton(
                "Hold level", "Propose a fader ride that keeps the channel's phrases near to its own loudness");
        held.setOnAction(event -> proposal.holdLevel(model.session().selectedChannel()));
        ToggleButton draw = toggle("Draw", "Dragging in a lane writes a curve by hand", model.drawingProperty()::set);
        ToggleButton snap = toggle("Snap", "Points and stretches snap to sections", model.snappingProperty()::set);
        snap.setSelected(true);
        SmallButton closer = new SmallButton("+", "Show a shorter stretch around the playhead (plus; Ctrl+wheel)");
        closer.setOnAction(event -> zoom(2));
        SmallButton wider = new SmallButton("\u2212", "Show a longer stretch (minus; Ctrl+wheel)");
        wider.setOnAction(event -> zoom(0.5));
        SmallButton all = new SmallButton("Whole song", "Show the whole song (Home)");
        all.setOnAction(event -> model.showAll());
        Region gap = new Region();
        HBox.setHgrow(gap, Priority.ALWAYS);
        HBox first = new HBox(6, title, gap, add, room, held, draw, snap, closer, wider, all);
        first.setAlignment(Pos.CENTER_LEFT);
        shift = field(
                "Move what is written in the stretch by",
                "dB",
                by -> overLanes((id, range) -> RideEdits.shift(session(), id, range, by)));
        scale = field(
                "Make what moves in the stretch of levels larger or smaller, around its mean, to",
                "%",
                percent -> overLanes((id, range) -> RideEdits.scale(session(), id, range, percent / 100)));
        offset = field(
                "Offset over the stretch alone, by",
                "dB",
                by -> overLanes((id, range) -> RideEdits.offsetDuring(session(), id, range, by)));
        copy.setOnShowing(event -> fillCopy());
        SmallButton none = new SmallButton("Choose none", "Forget the chosen stretch");
        none.setOnAction(event -> model.rangeProperty().set(null));
        stretch.getStyleClass().add("figure");
        stretch.setMinWidth(0);
        rangeTools.setAlignment(Pos.CENTER_LEFT);
        rangeTools
                .getChildren()
                .addAll(stretch, word("Shift"), shift, word("Scale"), scale, word("Offset"), offset, copy, none);
        empty.getStyleClass().add("muted");
        empty.setWrapText(true);
        scroll.setFitToWidth(true);
        scroll.setHbarPolicy(ScrollPane.ScrollBarPolicy.NEVER);
        VBox.setVgrow(scroll, Priority.ALWAYS);
        HBox ruler = new HBox(8, head(), time);
        HBox.setHgrow(time, Priority.ALWAYS);
        getChildren().addAll(first, recording(), rangeTools, proposal, ruler, empty, scroll);
        subscribe();
    }

    /** Shows a stretch around the playhead that is so many times shorter. */
    public void zoom(double times) {
        model.zoom(times, model.playhead());
    }

    /** What is done with what hands do while the song plays. */
    private HBox recording() {
        RideTakes takes = model.session().rideTakes();
        ToggleButton record = toggle(
                "Record", "While the song plays, controls write from grab to release", takes.recordingProperty()::set);
        record.setSelected(takes.recordingProperty().get());
        ToggleButton rehearse = toggle(
                "Rehearse", "Hear what hands do and put everything back at the stop", takes.rehearsingProperty()::set);
        rehearse.setSelected(takes.rehearsingProperty().get());
        Region gap = new Region();
        HBox.setHgrow(gap, Priority.ALWAYS);
        HBox line = new HBox(
                6,
                record,
                rehearse,
                word("Let go, it"),
                choice(
                        "What a control does when it is let go",
                        RideTake.Release.values(),
                        RideTake.Release::label,
                        takes.releaseProperty()),
                word("Behind the stop"),
                choice(
                        "What lies behind the stop of what was held",
                        RideTake.Behind.values(),
                        RideTake.Behind::label,
                        takes.behindProperty()),
                gap,
                files);
        line.setAlignment(Pos.CENTER_LEFT);
        return line;
    }

    private static <T> ChoiceBox<T> choice(String tip, T[] values, Function<T, String> word, ObjectProperty<T> chosen) {
        ChoiceBox<T> box = new ChoiceBox<>();
        box.getStyleClass().add("small");
        box.getItems().setAll(values);
        box.setConverter(new Words<>(word));
        Hint.on(box, tip);
        box.setAccessibleText(tip);
        box.setValue(chosen.get());
        box.setOnAction(event -> chosen.set(box.getValue()));
        return box;
    }

    private Region head() {
        Label head = new Label("Leaves the channel,\n\u221260 to 0 dBFS");
        head.getStyleClass().add("muted");
        head.setMinWidth(RideLane.HEAD_WIDTH);
        head.setMaxWidth(RideLane.HEAD_WIDTH);
        head.setMaxHeight(Double.MAX_VALUE);
        head.setAlignment(Pos.BOTTOM_LEFT);
        return head;
    }

    private void subscribe() {
        SessionModel session = model.session();
        subscriptions = Subscription.combine(
                session.historyProperty().subscribe(history -> {
                    model.forgetLevels();
                    refresh();
                    proposal.show(model.proposedProperty().get());
                }),
                session.selectedProperty().subscribe(id -> refresh()),
                session.transport().secondsProperty().subscribe(seconds -> {
                    if (isVisible()) {
                        time.placePlayhead();
                        lanes.inSight().forEach(RideLane::movePlayhead);
                    }
                }),
                model.lanesProperty().subscribe(ids -> build()),
                model.spanProperty().subscribe(span -> draw()),
                model.proposedProperty().subscribe(proposed -> {
                    proposal.show(proposed);
                    draw();
                }),
                model.levelsCameProperty().subscribe(count -> draw()),
                model.rangeProperty().subscribe(range -> {
                    showRange(range);
                    draw();
                }),
                visibleProperty().subscribe(visible -> refresh()),
                scroll.vvalueProperty().subscribe(place -> drawShown()),
                // Lanes that come or go move others into sight once the list has been laid out.
                lanes.heightProperty().subscribe(height -> Platform.runLater(this::drawShown)),
                scroll.viewportBoundsProperty().subscribe((before, now) -> {
                    // Where the list stands is part of the bounds, and changes nothing of a lane.
                    if (now.getWidth() != before.getWidth() || now.getHeight() != before.getHeight()) {
                        share();
                        draw();
                    }
                }));
    }

    /** Writes all curves of the session to a file. */
    public void write(Path file) {
        files.write(file);
    }

    /** Reads curves from a file. */
    public void read(Path file) {
        files.read(file);
    }

    /** Whether all levels that are shown are known. */
    public boolean ready() {
        return model.complete();
    }

    @Override
    public void close() {
        subscriptions.unsubscribe();
    }

    private Session session() {
        return model.session().session();
    }

    private static Label word(String text) {
        Label label = new Label(text);
        label.getStyleClass().add("muted");
        label.setMinWidth(USE_PREF_SIZE);
        return label;
    }

    private static ToggleButton toggle(String name, String tip, Consumer<Boolean> chosen) {
        ToggleButton button = new ToggleButton(name);
        button.getStyleClass().add("small");
        button.setMinWidth(USE_PREF_SIZE);
        Hint.on(button, tip);
        button.setOnAction(event -> chosen.accept(button.isSelected()));
        return button;
    }

    /** A field whose value is done and then at rest again. */
    private static ValueField field(String name, String unit, Consumer<Double> done) {
        double rest = unit.equals("%") ? 100 : 0;
        ValueField[] made = new ValueField[1];
        ValueField field = new ValueField(name, unit, unit.equals("%") ? 0 : 1, unit.equals("%") ? 10 : 0.5, value -> {
            if (value != rest) {
                done.accept(value);
            }
            made[0].setValue(rest);
        });
        made[0] = field;
        field.setPrefColumnCount(5);
        field.setValue(rest);
        return field;
    }

    private interface RangeEdit {
        Edit of(ControlId id, CurveRange range);
    }

    /** Does an edit in the chosen stretch of all lanes of levels. */
    private void overLanes(RangeEdit edit) {
        CurveRange range = model.rangeProperty().get();
        if (range == null) {
            return;
        }
        List<Edit> edits = model.lanesProperty().get().stream()
                .filter(this::isDb)
                // What a VCA does moves others too.
                .filter(id -> id.owner().equals(model.channel()))
                .map(id -> edit.of(id, range))
                .toList();
        together(edits);
    }

    /** What the fields' unit says. */
    private boolean isDb(ControlId id) {
        return Controls.control(session(), id).unit().startsWith("dB");
    }

    private void together(List<Edit> edits) {
        if (edits.size() == 1) {
            model.session().edit(edits.getFirst());
        } else if (!edits.isEmpty()) {
            model.session().edit(Edit.together(edits.getFirst().name() + " and others", edits));
        }
    }

    private void fillAdd() {
        add.getItems().clear();
        for (ControlId id : model.addable()) {
            String whose = id.owner().equals(model.channel()) ? "" : "VCA " + Controls.ownerName(session(), id) + ": ";
            MenuItem item = new MenuItem(whose + Controls.name(session(), id));
            item.setOnAction(event -> model.session().edit(RideEdits.add(session(), id)));
            add.getItems().add(item);
        }
    }

    private void fillRoom() {
        room.getItems().clear();
        List<Channel> back = model.session().selection();
        for (Channel key : session().channels()) {
            if (back.stream().noneMatch(c -> c.id().equals(key.id()))) {
                MenuItem item = new MenuItem(key.name());
                item.setOnAction(event -> proposal.makeRoom(key, back));
                room.getItems().add(item);
            }
        }
    }

    private void fillCopy() {
        copy.getItems().clear();
        CurveRange range = model.rangeProperty().get();
        if (range == null) {
            return;
        }
        List<ControlId> from = List.copyOf(model.lanesProperty().get());
        MenuItem here = new MenuItem("The playhead");
        here.setOnAction(event -> copyTo(from, range, model.playhead()));
        copy.getItems().add(here);
        for (Section section : session().sections()) {
            if (section.startFrames() != range.from()) {
                MenuItem item = new MenuItem("Section " + section.name());
                item.setOnAction(event -> copyTo(from, range, section.startFrames()));
                copy.getItems().add(item);
            }
        }
        for (Channel channel : session().channels()) {
            if (!channel.id().equals(model.channel())) {
                MenuItem item = new MenuItem("Channel " + channel.name());
                item.setOnAction(event -> copyTo(from, range, channel));
                copy.getItems().add(item);
            }
        }
    }

    private void copyTo(List<ControlId> from, CurveRange range, long at) {
        together(from.stream()
                .filter(id -> id.owner().equals(model.channel()))
                .map(id -> RideEdits.copy(session(), id, range, id, at))
                .toList());
    }

    private void copyTo(List<ControlId> from, CurveRange range, Channel channel) {
        List<Edit> edits = new ArrayList<>();
        for (ControlId id : from) {
            ControlId there = new ControlId(channel.id(), id.part(), id.key());
            if (id.owner().equals(model.channel()) && Controls.has(session(), there)) {
                edits.add(RideEdits.copy(session(), id, range, there, range.from()));
            }
        }
        together(edits);
    }

    // What is shown

    private void refresh() {
        if (!isVisible()) {
            return;
        }
        model.refresh();
        title.setText("Rides of " + model.session().selectedChannel().name());
        boolean none = model.lanesProperty().get().isEmpty();
        empty.setVisible(none);
        empty.setManaged(none);
        empty.setText("Nothing of " + model.session().selectedChannel().name()
                + " is ridden. Choose a control above, or the context menu of any fader and knob: Ride this.");
        known.values().forEach(RideLane::update);
        draw();
    }

    /** The lane of a control as it is to be shown now, whether it comes for the first time or again. */
    private RideLane lane(ControlId id) {
        RideLane lane = known.computeIfAbsent(id, one -> new RideLane(model, one));
        lane.draw(state);
        return lane;
    }

    private void build() {
        List<ControlId> ids = model.lanesProperty().get();
        known.keySet().retainAll(ids);
        lanes.show(ids.stream().map(RowList.Entry.Row::new).toList());
        share();
    }

    /** Lanes take as much height as there is. */
    private void share() {
        double height = scroll.getViewportBounds().getHeight();
        int count = Math.max(1, lanes.keys().size());
        lanes.setRowHeight(Math.clamp(Math.floor(height / count) - 1, RideLane.LEAST_HEIGHT, RideLane.MOST_HEIGHT));
    }

    private void draw() {
        state++;
        if (isVisible()) {
            time.requestLayout();
            drawShown();
        }
    }

    /** The lanes that the window shows now; the others are drawn when they come into sight. */
    private void drawShown() {
        lanes.inSight().forEach(lane -> lane.draw(state));
    }

    private void showRange(@Nullable CurveRange range) {
        rangeTools.setVisible(range != null);
        rangeTools.setManaged(range != null);
        if (range != null) {
            double rate = session().sampleRateHz();
            stretch.setText(LevelText.time(range.from() / rate) + " to " + LevelText.time(range.to() / rate));
        }
    }
}
