package waterwheel.desktop.flow;

import java.util.ArrayList;
import java.util.HashMap;
import java.util.HashSet;
import java.util.List;
import java.util.Map;
import java.util.Set;
import javafx.geometry.Pos;
import javafx.scene.Node;
import javafx.scene.control.Button;
import javafx.scene.control.Label;
import javafx.scene.control.MenuItem;
import javafx.scene.control.ScrollPane;
import javafx.scene.control.TextField;
import javafx.scene.layout.HBox;
import javafx.scene.layout.Pane;
import javafx.scene.layout.Priority;
import javafx.scene.layout.Region;
import javafx.scene.layout.VBox;
import org.jspecify.annotations.Nullable;
import waterwheel.core.edit.Edit;
import waterwheel.core.edit.Edits;
import waterwheel.core.edit.FlowEdits;
import waterwheel.core.edit.MixedAlike;
import waterwheel.core.errors.RoutingException;
import waterwheel.core.levels.ChannelLevels;
import waterwheel.core.levels.PeakShares;
import waterwheel.core.path.Stage;
import waterwheel.core.routing.Trace;
import waterwheel.core.session.Bus;
import waterwheel.core.session.Channel;
import waterwheel.core.session.ChannelId;
import waterwheel.core.session.Output;
import waterwheel.core.session.Session;
import waterwheel.core.session.Tap;
import waterwheel.core.units.LevelText;
import waterwheel.desktop.controls.Hint;
import waterwheel.desktop.controls.SmallButton;
import waterwheel.desktop.controls.SmallMenu;
import waterwheel.desktop.model.SessionModel;

/**
 * The session as a map from its sources at the left to the main bus at the right. Links are as wide as the level that
 * runs through them; sends are dashed, key inputs dotted. A card that is dropped on a bus feeds it.
 */
public final class FlowView extends VBox {
    private static final double TWO_LINES = 32;
    private static final double SCROLL_BAR = 8;
    private static final double SMALLEST_ROW = 14;
    private static final double LARGEST_ROW = 40;
    private static final double ZOOM_STEP = 1.25;
    /** A session of more tracks is shown as its buses at first. */
    private static final int MOST_UNFOLDED = 40;

    private final SessionModel model;
    private final Pane map = new Pane();
    private final Pane links = new Pane();
    private final ScrollPane scroll = new ScrollPane(map);
    private final TextField find = new TextField();
    private final Button fold =
            new SmallButton("Fold tracks", "Show the tracks of the selected bus, or of all, as one card");
    private final BusPlanPanel proposals;
    private final Label told = new Label();
    private final Label previewed =
            new Label("As it would be mixed alike: framed channels and bright links would be otherwise.");
    private final PeakBar peak;
    private final Set<ChannelId> folded = new HashSet<>();
    private final Map<String, FlowCard> cards = new HashMap<>();
    private final List<FlowLink> lines = new ArrayList<>();
    private @Nullable FlowMap shown;
    private double zoom = 1;
    /** What part of a peak comes by each link; null where that is not asked. */
    private @Nullable PeakShares parts;

    public FlowView(SessionModel model) {
        this.model = model;
        proposals = new BusPlanPanel(model);
        peak = new PeakBar(model, this::drawParts);
        getStyleClass().addAll("view", "flow");
        links.setMouseTransparent(true);
        map.getChildren().add(links);
        scroll.setFocusTraversable(false);
        scroll.setPannable(true);
        VBox.setVgrow(scroll, Priority.ALWAYS);
        told.getStyleClass().add("muted");
        told.setMinWidth(Region.USE_PREF_SIZE);
        Hint.on(
                told,
                "What the processors' look-ahead and oversampling delay; all paths arrive together, and"
                        + " renders begin at the song's time 0");
        Label legend = new Label(
                "dBFS: tracks average, buses peak in → out. Links as wide as their level; dashed sends, dotted"
                        + " keys, dash-dotted taps.");
        legend.getStyleClass().add("facts");
        legend.setMinWidth(0);
        previewed.getStyleClass().add("previewed");
        previewed.setMinWidth(0);
        getChildren().addAll(title(), previewed, scroll, peak, proposals, legend);
        // While buses are planned the plan has the map's room.
        for (Region other : List.of(scroll, legend)) {
            other.visibleProperty().bind(proposals.visibleProperty().not());
            other.managedProperty().bind(other.visibleProperty());
        }
        if (model.session().tracks().size() > MOST_UNFOLDED) {
            model.session().buses().forEach(one -> folded.add(one.id()));
        }
        find.textProperty().subscribe(text -> update());
        visibleProperty().subscribe(visible -> update());
        scroll.widthProperty().subscribe(value -> place());
        scroll.heightProperty().subscribe(value -> place());
        model.keep(model.historyProperty().subscribe(history -> update()));
        model.keep(model.previewProperty().subscribe(preview -> update()));
        model.keep(model.levelsProperty().subscribe(levels -> showLevels()));
        model.keep(model.selectionProperty().subscribe(selection -> showSelection()));
        model.keep(model.selectedProperty().subscribe(id -> showSelection()));
    }

    private HBox title() {
        Label title = new Label("Flow");
        title.getStyleClass().add("view-title");
        Hint.on(
                title,
                "From sources to the main bus. Drag a card onto a bus to feed it, or press R on a card"
                        + " for the list; arrow keys go from card to card");
        find.setPromptText("Find a track");
        find.setAccessibleText("Find a track");
        Hint.on(find, "Only tracks whose names hold this text are shown");
        find.setPrefColumnCount(9);
        fold.setOnAction(event -> toggleFold());
        Button closer = new SmallButton("Closer", "Larger cards");
        closer.setOnAction(event -> zoom(ZOOM_STEP));
        Button wider = new SmallButton("Wider", "Smaller cards, more of them in sight");
        wider.setOnAction(event -> zoom(1 / ZOOM_STEP));
        Button bus = new SmallButton("Bus around", "Make a bus that the selected channels feed instead");
        bus.setOnAction(event -> model.make(FlowEdits.busAround(model.selection(), "Bus")));
        SmallMenu more = new SmallMenu("More", "Returns, proposed buses, tracks fed by other channels");
        more.getItems()
                .addAll(
                        item("New return, fed by sends", () -> model.make(FlowEdits.addReturn("Return"))),
                        item("Propose buses from names…", proposals::open),
                        item(
                                "New track from the selected channel, before its fader",
                                () -> model.edit(FlowEdits.addTapped(model.selectedChannel(), Tap.Point.PRE_FADER))),
                        item(
                                "New track from the selected channel, after its fader",
                                () -> model.edit(FlowEdits.addTapped(model.selectedChannel(), Tap.Point.POST_FADER))),
                        item("Remove the selected bus; what fed it feeds what it fed", this::removeBus));
        Button who = new SmallButton(
                "Who fills the peak", "Each link's part of the selected bus's highest sample, down to the tracks");
        who.setOnAction(event -> peak.ask());
        Region gap = new Region();
        HBox.setHgrow(gap, Priority.ALWAYS);
        HBox line = new HBox(6, title, told, gap, find, fold, wider, closer, bus, more, who);
        line.setAlignment(Pos.CENTER_LEFT);
        return line;
    }

    private static MenuItem item(String name, Runnable action) {
        MenuItem item = new MenuItem(name);
        item.setOnAction(event -> action.run());
        return item;
    }

    private void removeBus() {
        if (model.selectedChannel() instanceof Bus bus
                && !bus.id().equals(model.session().mainId())) {
            model.select(model.session().mainId());
            model.edit(FlowEdits.removeBus(bus));
        } else {
            model.tell("Select a bus that is not the main bus.");
        }
    }

    private void toggleFold() {
        Channel selected = model.selectedChannel();
        if (selected instanceof Bus && !selected.id().equals(model.session().mainId())) {
            if (!folded.remove(selected.id())) {
                folded.add(selected.id());
            }
        } else if (folded.isEmpty()) {
            model.session().buses().forEach(bus -> folded.add(bus.id()));
        } else {
            folded.clear();
        }
        update();
    }

    /** Shows the tracks of a bus each by itself. */
    void unfold(ChannelId bus) {
        folded.remove(bus);
        update();
        requestFocus();
    }

    private void zoom(double factor) {
        zoom = Math.clamp(zoom * factor, 0.5, 4);
        place();
    }

    /** Draws what part of a peak comes by each link, and dims what has none in it. */
    private void drawParts(@Nullable PeakShares found) {
        parts = found;
        if (found != null && !folded.isEmpty()) {
            // Down to the tracks in one go.
            folded.clear();
            update();
        } else {
            showSelection();
        }
    }

    private void update() {
        if (!isVisible()) {
            return;
        }
        folded.removeIf(id -> session().find(id).isEmpty());
        FlowMap laid = FlowMap.of(session(), folded, find.getText());
        if (!laid.equals(shown)) {
            shown = laid;
            build(laid);
        }
        showPreview();
        showLatency();
        showLevels();
        showSelection();
    }

    /** What is drawn: the session, or what it would become. */
    Session session() {
        MixedAlike preview = model.previewProperty().get();
        return preview == null ? model.session() : preview.after();
    }

    /** Marks what would be otherwise; what is only looked at cannot be moved. */
    private void showPreview() {
        MixedAlike preview = model.previewProperty().get();
        Set<ChannelId> changed = preview == null ? Set.of() : preview.changed();
        Set<FlowMap.Link> before = preview == null
                ? Set.of()
                : Set.copyOf(
                        FlowMap.of(preview.before(), folded, find.getText()).links());
        map.setMouseTransparent(preview != null);
        previewed.setVisible(preview != null);
        previewed.setManaged(preview != null);
        cards.values().forEach(card -> card.showPreview(preview != null, changed.contains(card.channel())));
        lines.forEach(line -> line.showFresh(preview != null && !before.contains(line.link())));
    }

    private void build(FlowMap laid) {
        Map<String, FlowCard> before = new HashMap<>(cards);
        cards.clear();
        for (FlowMap.Card card : laid.cards()) {
            String key = key(card.id(), card.folded() > 0);
            FlowCard made = before.get(key);
            if (made == null) {
                made = new FlowCard(model, card.id(), this);
            }
            made.setTracks(card.tracks());
            cards.put(key, made);
        }
        map.getChildren().setAll(links);
        map.getChildren().addAll(cards.values());
        links.getChildren().clear();
        lines.clear();
        for (FlowMap.Link link : laid.links()) {
            FlowCard from = cards.get(key(link.from(), link.folded()));
            FlowCard to = cards.get(key(link.to(), false));
            if (from != null && to != null) {
                FlowLink line = new FlowLink(from, to, link, laid.lanes(link));
                lines.add(line);
                links.getChildren().add(line);
            }
        }
        // Over all lines and cards.
        lines.forEach(line -> map.getChildren().add(line.part()));
        place();
    }

    private static String key(ChannelId id, boolean isFolded) {
        return (isFolded ? "tracks of " : "") + id;
    }

    private void place() {
        FlowMap laid = shown;
        if (laid == null) {
            return;
        }
        // A little less than there is, or scroll bars would come and go for ever.
        double width = Math.max(300, scroll.getWidth() - SCROLL_BAR);
        double height = Math.max(100, scroll.getHeight() - SCROLL_BAR);
        double row = Math.clamp(height / Math.max(1, laid.rows()) * zoom, SMALLEST_ROW, LARGEST_ROW);
        Columns columns = Columns.in(width - 4, laid.columns());
        for (FlowMap.Card card : laid.cards()) {
            FlowCard node = cards.get(key(card.id(), card.folded() > 0));
            if (node != null) {
                boolean tall = card.column() > 0 || card.folded() > 0;
                double cardHeight = tall ? Math.min(2 * row - 3, 40) : row - 2;
                node.setCompact(cardHeight < 17);
                node.setTall(cardHeight > TWO_LINES);
                node.resizeRelocate(
                        columns.x(card.column()),
                        (card.row() + 0.5) * row - cardHeight / 2,
                        columns.width(card.column()),
                        cardHeight);
            }
        }
        int last = laid.columns() - 1;
        map.setPrefSize(columns.x(last) + columns.width(last) + 2, laid.rows() * row + 2);
        lines.forEach(line -> line.place(columns, row));
    }

    private double levelDb(FlowMap.Link link) {
        return model.levels()
                .asked(link.from())
                .map(levels -> levels.at(Stage.OUTPUT).averageDbfs())
                .orElse(Double.NaN);
    }

    private void showLevels() {
        if (!isVisible()) {
            return;
        }
        for (FlowCard card : cards.values()) {
            ChannelLevels levels = model.levels().asked(card.channel()).orElse(null);
            card.show(levels);
        }
        for (FlowLink line : lines) {
            line.show(line.link().folded() ? Double.NaN : levelDb(line.link()));
        }
    }

    private void showLatency() {
        int late = (int)
                Math.round(1_000.0 * model.latencyFrames() / model.session().sampleRateHz() * 10);
        told.setText(late == 0 ? "" : "held up by " + LevelText.signed(late / 10.0, 1, false) + " ms");
    }

    private static Set<ChannelId> filling(PeakShares found) {
        Set<ChannelId> all = new HashSet<>(Set.of(found.bus()));
        found.links().forEach(link -> all.add(link.from()));
        return all;
    }

    /** The part of a peak that comes by a link; NaN where none does. */
    private double partBy(FlowMap.Link link, PeakShares found) {
        if (link.folded() || link.kind() == FlowMap.Kind.KEY || link.kind() == FlowMap.Kind.TAP) {
            return Double.NaN;
        }
        return found.links().stream()
                .filter(one -> one.from().equals(link.from()) && one.to().equals(link.to()))
                .mapToDouble(PeakShares.Link::part)
                .findFirst()
                .orElse(Double.NaN);
    }

    /** What reaches the selected bus and what it reaches; nothing while main or several are selected. */
    private Set<ChannelId> traced() {
        Channel selected = model.selectedChannel();
        if (model.previewProperty().get() != null
                || model.selection().size() > 1
                || selected.id().equals(model.session().mainId())) {
            return Set.of();
        }
        Set<ChannelId> all = new HashSet<>(Trace.up(model.session(), selected.id()));
        all.addAll(Trace.down(model.session(), selected.id()));
        return all;
    }

    private void showSelection() {
        if (!isVisible()) {
            return;
        }
        Set<ChannelId> selection = model.selectionProperty().get();
        PeakShares found = parts;
        lines.forEach(line -> line.showPart(found == null ? Double.NaN : partBy(line.link(), found)));
        Set<ChannelId> traced = found == null ? traced() : filling(found);
        cards.values().forEach(card -> {
            card.showSelected(selection.contains(card.channel()));
            card.setTraced(traced.isEmpty() || traced.contains(card.channel()));
        });
        for (FlowLink line : lines) {
            FlowMap.Link link = line.link();
            line.setTraced(
                    found != null
                            ? line.hasPart()
                            : traced.isEmpty() || (traced.contains(link.from()) && traced.contains(link.to())));
        }
        fold.setText(folded.isEmpty() ? "Fold tracks" : "Unfold");
    }

    /** Has the selected channels feed a bus, or says why they cannot. */
    void route(ChannelId to) {
        if (!(model.session().find(to).orElse(null) instanceof Bus bus)) {
            model.tell("Only a bus can be fed.");
            return;
        }
        List<Channel> routed = model.selection().stream()
                .filter(channel -> !channel.id().equals(to))
                .toList();
        try {
            // Each is tried after the ones before, because together they might close a loop that none closes alone.
            Session after = model.session();
            List<Edit> edits = new ArrayList<>();
            for (Channel channel : routed) {
                Edit edit = Edits.output(after, channel, Output.to(bus.id()));
                edits.add(edit);
                after = edit.apply(after);
            }
            if (!edits.isEmpty()) {
                model.edit(
                        edits.size() == 1
                                ? edits.getFirst()
                                : Edit.together("Output of " + edits.size() + " channels", edits));
            }
        } catch (RoutingException e) {
            model.tell(e.getMessage());
        }
    }

    /** The card under a point of the scene, if there is one. */
    @Nullable
    FlowCard cardAt(double sceneX, double sceneY) {
        return cards.values().stream()
                .filter(card -> card.localToScene(card.getBoundsInLocal()).contains(sceneX, sceneY))
                .findFirst()
                .orElse(null);
    }

    /** Goes to the nearest card in a direction. */
    void go(FlowCard from, double dx, double dy) {
        cards.values().stream()
                .filter(card -> card != from)
                .filter(card -> (centerX(card) - centerX(from)) * dx + (centerY(card) - centerY(from)) * dy > 1)
                .min((a, b) -> Double.compare(distance(from, a, dx), distance(from, b, dx)))
                .ifPresent(Node::requestFocus);
    }

    /** Along the direction as it is, across it three times as far. */
    private static double distance(FlowCard from, FlowCard to, double dx) {
        double x = Math.abs(centerX(to) - centerX(from));
        double y = Math.abs(centerY(to) - centerY(from));
        return dx != 0 ? x + 3 * y : 3 * x + y;
    }

    private static double centerX(Node node) {
        return node.getBoundsInParent().getCenterX();
    }

    private static double centerY(Node node) {
        return node.getBoundsInParent().getCenterY();
    }
}
