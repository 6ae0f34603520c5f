package waterwheel.desktop.flow;

import java.util.List;
import java.util.stream.Collectors;
import javafx.css.PseudoClass;
import javafx.geometry.Pos;
import javafx.geometry.Side;
import javafx.scene.AccessibleRole;
import javafx.scene.control.ContextMenu;
import javafx.scene.control.Label;
import javafx.scene.control.MenuItem;
import javafx.scene.control.OverrunStyle;
import javafx.scene.input.KeyEvent;
import javafx.scene.input.MouseButton;
import javafx.scene.input.MouseEvent;
import javafx.scene.layout.HBox;
import javafx.scene.layout.Priority;
import javafx.scene.layout.Region;
import javafx.scene.layout.VBox;
import org.jspecify.annotations.Nullable;
import waterwheel.core.edit.Edit;
import waterwheel.core.edit.Edits;
import waterwheel.core.errors.RoutingException;
import waterwheel.core.levels.ChannelLevels;
import waterwheel.core.metering.Figures;
import waterwheel.core.path.Stage;
import waterwheel.core.routing.Faders;
import waterwheel.core.session.Bus;
import waterwheel.core.session.Channel;
import waterwheel.core.session.ChannelId;
import waterwheel.core.session.Output;
import waterwheel.core.session.Track;
import waterwheel.core.units.LevelText;
import waterwheel.desktop.controls.ColourMark;
import waterwheel.desktop.controls.Hint;
import waterwheel.desktop.model.SessionModel;

/** One channel on the map, with its level in and out; or the folded tracks of a bus. */
final class FlowCard extends HBox {
    private static final PseudoClass SELECTED = PseudoClass.getPseudoClass("selected");
    private static final PseudoClass DIMMED = PseudoClass.getPseudoClass("dimmed");
    private static final PseudoClass OVER = PseudoClass.getPseudoClass("over");
    private static final PseudoClass CLIPS = PseudoClass.getPseudoClass("clips");
    private static final PseudoClass TARGET = PseudoClass.getPseudoClass("target");
    private static final PseudoClass CHANGED = PseudoClass.getPseudoClass("changed");
    private static final double LEAST_DRAG = 6;

    private final SessionModel model;
    private final ChannelId id;
    private final FlowView view;
    private final Region colour = ColourMark.still();
    private final Label name = new Label();
    private final Label level = new Label();
    /** The tracks that it stands for; none where it is a channel's own card. */
    private List<ChannelId> tracks = List.of();

    private double pressX;
    private double pressY;
    private @Nullable FlowCard target;

    FlowCard(SessionModel model, ChannelId id, FlowView view) {
        super(5);
        this.model = model;
        this.id = id;
        this.view = view;
        getStyleClass().add("flow-card");
        setAlignment(Pos.CENTER_LEFT);
        setFocusTraversable(true);
        setAccessibleRole(AccessibleRole.BUTTON);
        setManaged(false);
        name.setMinWidth(0);
        name.setMaxWidth(Double.MAX_VALUE);
        // Names that differ at their ends stay apart.
        name.setTextOverrun(OverrunStyle.CENTER_ELLIPSIS);
        HBox.setHgrow(name, Priority.ALWAYS);
        level.getStyleClass().add("figure");
        level.setMinWidth(Region.USE_PREF_SIZE);
        getChildren().addAll(colour, name, level);
        addEventHandler(MouseEvent.MOUSE_PRESSED, this::press);
        addEventHandler(MouseEvent.MOUSE_DRAGGED, this::drag);
        addEventHandler(MouseEvent.MOUSE_RELEASED, this::release);
        setOnKeyPressed(this::key);
        focusedProperty().subscribe(focused -> {
            if (focused && !folded() && !model.selectionProperty().get().contains(id)) {
                model.select(id);
            }
        });
    }

    ChannelId channel() {
        return id;
    }

    void setTracks(List<ChannelId> stoodFor) {
        tracks = stoodFor;
    }

    private boolean folded() {
        return !tracks.isEmpty();
    }

    /** Where there is room for two lines, the level stands under the name. */
    void setTall(boolean tall) {
        if (tall && getChildren().contains(level)) {
            getChildren().remove(name);
            getChildren().remove(level);
            VBox lines = new VBox(name, level);
            lines.setAlignment(Pos.CENTER_LEFT);
            lines.setMinWidth(0);
            HBox.setHgrow(lines, Priority.ALWAYS);
            getChildren().setAll(colour, lines);
        }
    }

    void setCompact(boolean compact) {
        setStyle(compact ? "-fx-font-size: 10px;" : "");
    }

    void setTraced(boolean traced) {
        pseudoClassStateChanged(DIMMED, !traced);
    }

    /** @param changed whether the channel would be otherwise */
    void showPreview(boolean preview, boolean changed) {
        setFocusTraversable(!preview);
        pseudoClassStateChanged(CHANGED, changed);
    }

    void showSelected(boolean selected) {
        pseudoClassStateChanged(SELECTED, selected && !folded());
    }

    void show(@Nullable ChannelLevels levels) {
        Channel channel = view.session().find(id).orElse(null);
        if (channel == null) {
            return;
        }
        ColourMark.paint(colour, channel instanceof Track track ? track.colour() : Track.Colour.NONE);
        if (folded()) {
            showTracks(channel);
            return;
        }
        String state = Faders.of(view.session()).muted(channel)
                ? " (muted)"
                : channel.strip().soloed() ? " (solo)" : "";
        boolean clips = clips(channel);
        name.setText(channel.name() + state + goesOut(channel) + (clips ? " clips" : ""));
        pseudoClassStateChanged(CLIPS, clips);
        if (levels == null) {
            level.setText("…");
            setAccessibleText(channel.name() + ", being measured");
            return;
        }
        Figures in = levels.first();
        Figures out = levels.at(Stage.OUTPUT);
        boolean bus = channel instanceof Bus;
        level.setText(
                bus
                        ? LevelText.signed(in.samplePeakDbfs(), 1, true) + " → "
                                + LevelText.signed(out.samplePeakDbfs(), 1, true)
                        : LevelText.signed(out.averageDbfs(), 1, true));
        boolean over = bus && in.samplePeakDbfs() > 0;
        level.pseudoClassStateChanged(OVER, over);
        Hint.on(
                this,
                channel.name() + ": in peak " + LevelText.level(in.samplePeakDbfs(), "dBFS") + ", out peak "
                        + LevelText.level(out.samplePeakDbfs(), "dBFS") + ", average "
                        + LevelText.level(out.averageDbfs(), "dBFS")
                        + (clips ? ". Over full scale at the converter, which cuts it off" : overInWords(over))
                        + ". Drag onto a bus, or press R, to feed it");
        setAccessibleText(channel.name() + ", " + level.getText() + " dBFS" + (over ? ", over full scale" : ""));
    }

    /** How many tracks the card stands for, and the loudest of them. */
    private void showTracks(Channel bus) {
        name.setText(tracks.size() == 1 ? "1 track" : tracks.size() + " tracks");
        level.setText(tracks.stream()
                .flatMap(track -> model.levels().asked(track).stream())
                .mapToDouble(levels -> levels.at(Stage.OUTPUT).averageDbfs())
                .max()
                .stream()
                .mapToObj(loudest -> "up to " + LevelText.signed(loudest, 1, true))
                .findFirst()
                .orElse("…"));
        Hint.on(
                this,
                tracks.stream()
                                .flatMap(track -> view.session().find(track).stream())
                                .map(Channel::name)
                                .collect(Collectors.joining(", "))
                        + ". Double click or Enter shows them");
        setAccessibleText(name.getText() + " of " + bus.name() + ", " + level.getText() + " dBFS");
    }

    /** The pair of the interface that a channel goes to, in few words; empty for one that goes elsewhere. */
    private static String goesOut(Channel channel) {
        return channel.strip().output() instanceof Output.ToInterface pair ? " → " + pair.label() : "";
    }

    /** Whether a channel feeds a pair of the interface whose converter clips: there an over does harm. */
    private boolean clips(Channel channel) {
        if (!(channel.strip().output() instanceof Output.ToInterface(int pair))) {
            return false;
        }
        Figures there = model.levels().pairs().get(pair);
        return there != null && there.headroomDb() < 0;
    }

    private String overInWords(boolean over) {
        if (!over) {
            return "";
        }
        return id.equals(model.session().mainId())
                ? ". Over full scale: a fixed-point file or a converter would cut it off"
                : ". Over full scale, which is no loss inside the mix";
    }

    private void press(MouseEvent event) {
        if (event.getButton() != MouseButton.PRIMARY) {
            return;
        }
        pressX = event.getSceneX();
        pressY = event.getSceneY();
        if (folded() && event.getClickCount() == 2) {
            view.unfold(id);
        } else if (!folded()) {
            if (event.isShortcutDown()) {
                model.toggleSelected(id);
            } else if (event.isShiftDown()) {
                model.selectTo(id);
            } else if (!model.selectionProperty().get().contains(id)) {
                model.select(id);
            }
        }
        requestFocus();
        event.consume();
    }

    private void drag(MouseEvent event) {
        aim(view.cardAt(event.getSceneX(), event.getSceneY()));
        event.consume();
    }

    private void aim(@Nullable FlowCard card) {
        if (target != null) {
            target.pseudoClassStateChanged(TARGET, false);
        }
        target = card == this || card == null || card.folded() ? null : card;
        if (target != null) {
            target.pseudoClassStateChanged(TARGET, true);
        }
    }

    private void release(MouseEvent event) {
        boolean moved = Math.hypot(event.getSceneX() - pressX, event.getSceneY() - pressY) > LEAST_DRAG;
        aim(moved ? view.cardAt(event.getSceneX(), event.getSceneY()) : null);
        FlowCard dropped = target;
        aim(null);
        if (moved && dropped != null && !folded()) {
            view.route(dropped.id);
        }
        event.consume();
    }

    private void key(KeyEvent event) {
        if (event.isShortcutDown() || event.isAltDown()) {
            return;
        }
        switch (event.getCode()) {
            case LEFT -> view.go(this, -1, 0);
            case RIGHT -> view.go(this, 1, 0);
            case UP -> view.go(this, 0, -1);
            case DOWN -> view.go(this, 0, 1);
            case R -> {
                if (!folded()) {
                    offerTargets();
                }
            }
            case ENTER -> {
                if (folded()) {
                    view.unfold(id);
                }
            }
            default -> {
                return;
            }
        }
        event.consume();
    }

    /** Lists the buses; those that would close a loop are there and say so. */
    private void offerTargets() {
        Channel channel = model.session().channel(id);
        ContextMenu menu = new ContextMenu();
        for (Bus bus : model.session().buses()) {
            if (bus.id().equals(id)) {
                continue;
            }
            MenuItem item = new MenuItem("Feed " + bus.name());
            item.setMnemonicParsing(false);
            try {
                Edit unused = Edits.output(model.session(), channel, Output.to(bus.id()));
                item.setOnAction(event -> view.route(bus.id()));
            } catch (RoutingException e) {
                item.setText("Feed " + bus.name() + " (would close a loop)");
                item.setDisable(true);
            }
            menu.getItems().add(item);
        }
        menu.show(this, Side.BOTTOM, 0, 0);
    }
}
