package waterwheel.desktop.blend;

import java.util.ArrayList;
import java.util.HashSet;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Objects;
import java.util.Set;
import javafx.geometry.Pos;
import javafx.scene.control.Button;
import javafx.scene.control.Label;
import javafx.scene.control.ScrollPane;
import javafx.scene.control.TextField;
import javafx.scene.layout.HBox;
import javafx.scene.layout.Priority;
import javafx.scene.layout.Region;
import javafx.scene.layout.VBox;
import waterwheel.core.edit.FlowEdits;
import waterwheel.core.edit.GroupEdits;
import waterwheel.core.session.Bus;
import waterwheel.core.session.Channel;
import waterwheel.core.session.ChannelId;
import waterwheel.core.session.Output;
import waterwheel.core.session.Session;
import waterwheel.core.session.Vca;
import waterwheel.desktop.controls.ColumnLabel;
import waterwheel.desktop.controls.Hint;
import waterwheel.desktop.controls.RowList;
import waterwheel.desktop.controls.ScrollBarGap;
import waterwheel.desktop.controls.Sight;
import waterwheel.desktop.controls.SmallButton;
import waterwheel.desktop.model.SessionModel;

/** Lanes with faders, grouped like an outline under the bus that they feed; then the VCAs. */
public final class BlendView extends VBox {
    private static final double LANE_HEIGHT = 30;
    static final double NAME_WIDTH = 176;
    static final double LEVEL_WIDTH = 84;
    static final double DB_WIDTH = 62;
    static final double PLACE_WIDTH = 100;
    static final double SENDS_WIDTH = 96;
    static final double BUTTONS_WIDTH = 60;
    /** What a lane wants besides its sends, with the gaps between its parts and what is around it. */
    private static final double WITHOUT_SENDS =
            NAME_WIDTH + LEVEL_WIDTH + DB_WIDTH + PLACE_WIDTH + SENDS_WIDTH + BUTTONS_WIDTH + 116;

    private final SessionModel model;
    private final ScrollPane scroll = new ScrollPane();
    private final RowList<ChannelId, Lane> list;
    private final TextField find = new TextField();
    private final Set<ChannelId> folded = new HashSet<>();
    private final Map<ChannelId, Entry> outline = new LinkedHashMap<>();
    private final Map<ChannelId, VcaLane> vcas = new LinkedHashMap<>();
    private final Map<ChannelId, LinkLane> linkLanes = new LinkedHashMap<>();
    private final HBox header = new HBox();
    private List<Object> shown = List.of();
    private List<Bus> returns = List.of();

    public BlendView(SessionModel model) {
        this.model = model;
        list = new RowList<>(scroll, LANE_HEIGHT, this::made);
        getStyleClass().addAll("view", "blend");
        scroll.setFitToWidth(true);
        scroll.setFocusTraversable(false);
        VBox.setVgrow(scroll, Priority.ALWAYS);
        list.getStyleClass().add("channels");
        header.getStyleClass().add("staging-header");
        HBox.setHgrow(header, Priority.ALWAYS);
        getChildren().addAll(title(), new HBox(header, new ScrollBarGap(scroll)), scroll);
        find.textProperty().subscribe(text -> update());
        visibleProperty().subscribe(visible -> update());
        widthProperty().subscribe(width -> update());
        model.keep(model.historyProperty().subscribe(history -> update()));
        model.keep(model.levelsProperty().subscribe(levels -> update()));
        model.keep(model.selectionProperty()
                .subscribe(selection -> list.made().forEach(lane -> lane.showSelected(selection))));
        model.keep(model.selectedProperty().subscribe(this::bringIntoSight));
        model.transport().listen((peaks, seconds) -> {
            if (isVisible()) {
                list.made().forEach(lane -> lane.showLive(peaks, seconds));
            }
        });
    }

    private HBox title() {
        Label title = new Label("Blend");
        title.getStyleClass().add("view-title");
        Hint.on(
                title,
                "Faders over whole-song levels. Left and Right move the selected lanes by 0.1 dB,"
                        + " Shift by 1 dB; M mutes, S solos; Shift+Up and Down select along");
        find.setPromptText("Find a channel");
        find.setAccessibleText("Find a channel");
        Hint.on(find, "Only channels whose names hold this text are shown");
        find.getStyleClass().add("small");
        find.setPrefColumnCount(9);
        Label selected = new Label("Selected:");
        selected.getStyleClass().add("muted");
        selected.setMinWidth(Region.USE_PREF_SIZE);
        Button vca = new SmallButton("VCA over", "Make a VCA that moves the selected channels' faders");
        vca.setOnAction(event -> addVca());
        Button link = new SmallButton(
                "Link", "Have the selected channels' faders, mutes and solos move together (Alt moves one alone)");
        link.setOnAction(event -> {
            if (model.selection().size() < 2) {
                model.tell("Select two channels or more to link them.");
            } else {
                model.edit(GroupEdits.addLink(
                        "Link 1", model.selection().stream().map(Channel::id).toList()));
            }
        });
        Button bus = new SmallButton("Bus around", "Make a bus that the selected channels feed instead");
        bus.setOnAction(event -> model.make(FlowEdits.busAround(model.selection(), "Bus")));
        Button effect = new SmallButton("New return", "Make a bus for an effect, fed by sends");
        effect.setOnAction(event -> model.make(FlowEdits.addReturn("Return")));
        Region gap = new Region();
        HBox.setHgrow(gap, Priority.ALWAYS);
        HBox line = new HBox(8, title, gap, find, selected, vca, link, bus, effect);
        line.setAlignment(Pos.CENTER_LEFT);
        return line;
    }

    /** Makes a VCA, and has it seen and ready to be named. */
    private void addVca() {
        Set<ChannelId> before = Set.copyOf(vcas.keySet());
        model.edit(GroupEdits.addVca(
                "VCA 1", model.selection().stream().map(Channel::id).toList()));
        vcas.forEach((id, lane) -> {
            if (!before.contains(id)) {
                Sight.bring(scroll, lane);
                lane.nameIt();
            }
        });
    }

    private void bringIntoSight(ChannelId selected) {
        if (isVisible()) {
            list.bring(selected);
        }
    }

    private void head(List<Bus> returns) {
        Label fader = new ColumnLabel("Fader over level", LEVEL_WIDTH);
        fader.setMaxWidth(Double.MAX_VALUE);
        HBox.setHgrow(fader, Priority.ALWAYS);
        header.getChildren()
                .setAll(
                        new ColumnLabel("Channel", NAME_WIDTH),
                        fader,
                        new ColumnLabel("dB", DB_WIDTH),
                        new ColumnLabel("Position, width", PLACE_WIDTH));
        for (Bus bus : returns) {
            Label name = new ColumnLabel(bus.name(), ReturnSends.COLUMN_WIDTH);
            name.getStyleClass().add("narrow-column");
            header.getChildren().add(name);
        }
        header.getChildren().addAll(new ColumnLabel("VCAs, links", SENDS_WIDTH), new ColumnLabel("", BUTTONS_WIDTH));
    }

    /** A place in the outline. */
    private record Entry(Channel channel, int depth, boolean folds) {}

    private List<Entry> wanted() {
        Session session = model.session();
        List<Entry> entries = new ArrayList<>();
        entries.add(new Entry(session.main(), 0, false));
        addInputs(session, session.mainId(), 1, entries);
        for (Channel channel : session.channels()) {
            boolean beside = !(channel.strip().output() instanceof Output.ToBus)
                    && !channel.id().equals(session.mainId());
            if (beside || channel.cue()) {
                entries.add(new Entry(channel, 1, channel instanceof Bus));
                if (channel instanceof Bus && !folded.contains(channel.id())) {
                    addInputs(session, channel.id(), 2, entries);
                }
            }
        }
        String wanted = find.getText().strip().toLowerCase(Locale.ROOT);
        return wanted.isEmpty()
                ? entries
                : entries.stream()
                        .filter(e -> e.channel().name().toLowerCase(Locale.ROOT).contains(wanted))
                        .toList();
    }

    private void addInputs(Session session, ChannelId bus, int depth, List<Entry> entries) {
        for (Channel channel : session.channels()) {
            if (!channel.strip().output().equals(Output.to(bus)) || channel.cue()) {
                continue;
            }
            boolean folds = channel instanceof Bus;
            entries.add(new Entry(channel, depth, folds));
            boolean open = !folded.contains(channel.id()) || !find.getText().isBlank();
            if (folds && open) {
                addInputs(session, channel.id(), depth + 1, entries);
            }
        }
    }

    private void update() {
        if (!isVisible()) {
            return;
        }
        List<Entry> wanted = wanted();
        List<Object> shape = new ArrayList<>();
        wanted.forEach(e -> shape.add(List.of(e.channel().id(), e.depth())));
        model.session().vcas().forEach(vca -> shape.add(vca.id()));
        model.session().links().forEach(link -> shape.add(link.id()));
        List<Bus> columns = ReturnSends.returns(model.session(), getWidth() - WITHOUT_SENDS);
        columns.forEach(bus -> shape.add(List.of(bus.id(), bus.name())));
        if (!shape.equals(shown)) {
            shown = shape;
            if (!columns.stream()
                    .map(Bus::id)
                    .toList()
                    .equals(returns.stream().map(Bus::id).toList())) {
                list.forget();
            }
            returns = columns;
            head(columns);
            build(wanted);
        }
        list.made().forEach(Lane::update);
        vcas.values().forEach(VcaLane::update);
        linkLanes.values().forEach(LinkLane::update);
    }

    private void build(List<Entry> wanted) {
        outline.clear();
        wanted.forEach(entry -> outline.put(entry.channel().id(), entry));
        list.made().filter(lane -> outline.containsKey(lane.channelId())).forEach(this::indent);
        List<RowList.Entry<ChannelId>> entries = new ArrayList<>();
        outline.keySet().forEach(id -> entries.add(new RowList.Entry.Row<>(id)));
        vcas.clear();
        if (!model.session().vcas().isEmpty()) {
            entries.add(group("VCAs"));
            for (Vca vca : model.session().vcas()) {
                VcaLane lane = new VcaLane(model, vca.id());
                vcas.put(vca.id(), lane);
                entries.add(new RowList.Entry.Between<>(lane));
            }
        }
        linkLanes.clear();
        if (!model.session().links().isEmpty()) {
            entries.add(group("Link groups"));
            model.session().links().forEach(link -> {
                LinkLane lane = new LinkLane(model, link.id());
                linkLanes.put(link.id(), lane);
                entries.add(new RowList.Entry.Between<>(lane));
            });
        }
        list.show(entries);
    }

    private static RowList.Entry<ChannelId> group(String name) {
        Label group = new Label(name);
        group.getStyleClass().add("group");
        return new RowList.Entry.Between<>(group);
    }

    /** A lane that shows all there is to show now. */
    private Lane made(ChannelId id) {
        Lane lane = new Lane(model, model.session().channel(id), returns, () -> toggle(id));
        indent(lane);
        lane.showSelected(model.selectionProperty().get());
        lane.update();
        return lane;
    }

    private void indent(Lane lane) {
        ChannelId id = lane.channelId();
        Entry entry = Objects.requireNonNull(outline.get(id));
        lane.indent(entry.depth(), entry.folds(), folded.contains(id));
    }

    private void toggle(ChannelId bus) {
        if (!folded.remove(bus)) {
            folded.add(bus);
        }
        update();
    }
}
