package waterwheel.desktop.stems;

import java.util.ArrayList;
import java.util.HashSet;
import java.util.List;
import java.util.Set;
import java.util.function.Consumer;
import javafx.css.PseudoClass;
import javafx.geometry.Pos;
import javafx.scene.Node;
import javafx.scene.control.Label;
import javafx.scene.control.ListView;
import javafx.scene.control.MenuItem;
import javafx.scene.control.ScrollPane;
import javafx.scene.control.SelectionMode;
import javafx.scene.input.KeyCode;
import javafx.scene.input.MouseEvent;
import javafx.scene.layout.HBox;
import javafx.scene.layout.Priority;
import javafx.scene.layout.Region;
import javafx.scene.layout.VBox;
import waterwheel.core.edit.StemEdits;
import waterwheel.core.session.Channel;
import waterwheel.core.session.ChannelId;
import waterwheel.core.session.NamedStem;
import waterwheel.core.session.Session;
import waterwheel.desktop.controls.Hint;
import waterwheel.desktop.controls.NameField;
import waterwheel.desktop.controls.SmallButton;
import waterwheel.desktop.controls.SmallMenu;
import waterwheel.desktop.model.SessionModel;

/**
 * Stems put together by hand: what stands by itself on the left, the stems beside it. Channels are dragged from one to the
 * other, or put there by the keyboard.
 */
final class PutTogether extends HBox {
    private static final PseudoClass DROP = PseudoClass.getPseudoClass("drop");
    private static final double HEIGHT = 148;
    private static final double WIDTH = 158;
    private static final double FRESH_WIDTH = 92;

    private final SessionModel model;
    private final ListView<Channel> alone;
    private final SmallMenu into =
            new SmallMenu("Put into", "Put the selected channels into a stem, or make a new one of them");
    private final HBox stems = new HBox(8);
    /** Where what is dragged can be dropped. */
    private final List<Card> cards = new ArrayList<>();

    /** A place that takes channels. */
    private record Card(Region box, Consumer<List<ChannelId>> takes) {}

    PutTogether(SessionModel model) {
        super(12);
        this.model = model;
        getStyleClass().add("put-together");
        setMinHeight(HEIGHT);
        setPrefHeight(HEIGHT);
        setMaxHeight(HEIGHT);
        alone = list("Channels that are stems by themselves. Enter makes a new stem of the selected ones");
        alone.setOnKeyPressed(event -> {
            if (event.getCode() == KeyCode.ENTER && !selected(alone).isEmpty()) {
                model.edit(StemEdits.add("Stem", selected(alone)));
                event.consume();
            }
        });
        into.setOnShowing(event -> into.getItems().setAll(targets()));
        // A menu without items is not opened at all.
        into.getItems().setAll(new MenuItem("New stem"));
        Label title = new Label("By themselves");
        title.getStyleClass().add("panel-title");
        HBox.setHgrow(title, Priority.ALWAYS);
        title.setMaxWidth(Double.MAX_VALUE);
        HBox head = new HBox(8, title, into);
        head.setAlignment(Pos.CENTER_LEFT);
        VBox left = new VBox(4, head, alone);
        left.setMinWidth(WIDTH + 36);
        left.setMaxWidth(WIDTH + 36);
        VBox.setVgrow(alone, Priority.ALWAYS);
        ScrollPane scroll = new ScrollPane(stems);
        scroll.setFitToHeight(true);
        scroll.setVbarPolicy(ScrollPane.ScrollBarPolicy.NEVER);
        scroll.setFocusTraversable(false);
        HBox.setHgrow(scroll, Priority.ALWAYS);
        getChildren().addAll(left, scroll);
        model.keep(model.historyProperty().subscribe(history -> show()));
    }

    private List<MenuItem> targets() {
        List<MenuItem> items = new ArrayList<>();
        MenuItem fresh = new MenuItem("New stem");
        fresh.setOnAction(event -> model.edit(StemEdits.add("Stem", selected(alone))));
        items.add(fresh);
        for (NamedStem stem : model.session().stems().named()) {
            MenuItem item = new MenuItem(stem.name());
            item.setOnAction(event -> model.edit(StemEdits.put(stem, selected(alone))));
            items.add(item);
        }
        return items;
    }

    private static List<ChannelId> selected(ListView<Channel> list) {
        return list.getSelectionModel().getSelectedItems().stream()
                .map(Channel::id)
                .toList();
    }

    private void show() {
        Session session = model.session();
        Set<ChannelId> placed = new HashSet<>();
        session.stems().named().forEach(stem -> placed.addAll(stem.members()));
        alone.getItems()
                .setAll(session.channels().stream()
                        .filter(channel -> !channel.cue()
                                && !placed.contains(channel.id())
                                && !channel.id().equals(session.mainId()))
                        .toList());
        cards.clear();
        List<Node> boxes = new ArrayList<>();
        // First, so that it is seen however many stems there are.
        boxes.add(fresh());
        for (NamedStem stem : session.stems().named()) {
            boxes.add(card(stem));
        }
        stems.getChildren().setAll(boxes);
        cards.add(new Card(alone, members -> model.edit(StemEdits.takeOut(members))));
    }

    private VBox card(NamedStem stem) {
        NameField name = new NameField("Name of the stem", WIDTH - 74, typed -> {
            if (!typed.equals(stem.name())) {
                model.edit(StemEdits.rename(stem, typed));
            }
        });
        name.setText(stem.name());
        SmallButton remove = new SmallButton("Remove", "Take the stem away; its channels stand by themselves again");
        remove.setOnAction(event -> model.edit(StemEdits.remove(stem)));
        HBox head = new HBox(4, name, remove);
        head.setAlignment(Pos.CENTER_LEFT);
        ListView<Channel> members =
                list("Channels in the stem " + stem.name() + ". Delete takes the selected ones out");
        members.getItems()
                .setAll(stem.members().stream().map(model.session()::channel).toList());
        members.setOnKeyPressed(event -> {
            if (event.getCode() == KeyCode.DELETE && !selected(members).isEmpty()) {
                model.edit(StemEdits.takeOut(selected(members)));
                event.consume();
            }
        });
        VBox.setVgrow(members, Priority.ALWAYS);
        VBox box = boxed(head, members);
        cards.add(new Card(box, added -> model.edit(StemEdits.put(stem, added))));
        return box;
    }

    private VBox fresh() {
        Label hint = new Label("Drop channels here for a new stem");
        hint.getStyleClass().add("muted");
        hint.setWrapText(true);
        VBox box = boxed(hint);
        box.setMinWidth(FRESH_WIDTH);
        box.setAlignment(Pos.CENTER);
        cards.add(new Card(box, added -> model.edit(StemEdits.add("Stem", added))));
        return box;
    }

    private static VBox boxed(Node... content) {
        VBox box = new VBox(4, content);
        box.getStyleClass().add("stem-card");
        box.setMinWidth(WIDTH);
        box.setMaxWidth(WIDTH);
        return box;
    }

    /** A list of channels whose selected ones can be dragged. */
    private ListView<Channel> list(String what) {
        ListView<Channel> list = new ListView<>();
        list.getSelectionModel().setSelectionMode(SelectionMode.MULTIPLE);
        list.setAccessibleText(what);
        Hint.on(list, what);
        list.getStyleClass().add("channel-list");
        list.setCellFactory(any -> new ChannelName());
        // Before the cells, which keep such events to themselves.
        list.addEventFilter(MouseEvent.MOUSE_DRAGGED, event -> mark(event, selected(list)));
        list.addEventFilter(MouseEvent.MOUSE_RELEASED, event -> {
            List<ChannelId> dragged = selected(list);
            List<Card> under = under(event);
            cards.forEach(card -> card.box().pseudoClassStateChanged(DROP, false));
            boolean elsewhere = under.stream().noneMatch(card -> card.box() == list || card.box() == list.getParent());
            if (!event.isStillSincePress() && !dragged.isEmpty() && elsewhere) {
                under.forEach(card -> card.takes().accept(dragged));
            }
        });
        return list;
    }

    private void mark(MouseEvent event, List<ChannelId> dragged) {
        List<Card> under = dragged.isEmpty() ? List.of() : under(event);
        cards.forEach(card -> card.box().pseudoClassStateChanged(DROP, under.contains(card)));
    }

    private List<Card> under(MouseEvent event) {
        return cards.stream()
                .filter(card -> card.box()
                        .localToScene(card.box().getLayoutBounds())
                        .contains(event.getSceneX(), event.getSceneY()))
                .toList();
    }
}
