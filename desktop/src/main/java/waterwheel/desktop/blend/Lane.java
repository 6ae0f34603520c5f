package waterwheel.desktop.blend;

import java.util.ArrayList;
import java.util.List;
import java.util.function.Function;
import javafx.geometry.Pos;
import javafx.scene.AccessibleRole;
import javafx.scene.control.Button;
import javafx.scene.control.Label;
import javafx.scene.control.ToggleButton;
import javafx.scene.input.KeyCode;
import javafx.scene.input.KeyEvent;
import javafx.scene.input.MouseEvent;
import javafx.scene.layout.HBox;
import javafx.scene.layout.Priority;
import javafx.scene.layout.Region;
import javafx.scene.layout.VBox;
import waterwheel.core.edit.Edit;
import waterwheel.core.edit.Edits;
import waterwheel.core.levels.ChannelLevels;
import waterwheel.core.path.Stage;
import waterwheel.core.playback.LivePeaks;
import waterwheel.core.session.Bus;
import waterwheel.core.session.Channel;
import waterwheel.core.session.ControlId;
import waterwheel.core.session.Send;
import waterwheel.core.session.Strip;
import waterwheel.core.session.Track;
import waterwheel.core.units.LevelText;
import waterwheel.desktop.controls.ChannelRow;
import waterwheel.desktop.controls.ColourMark;
import waterwheel.desktop.controls.DbField;
import waterwheel.desktop.controls.Fader;
import waterwheel.desktop.controls.Hint;
import waterwheel.desktop.controls.LevelBar;
import waterwheel.desktop.controls.PlaceControl;
import waterwheel.desktop.controls.RideMark;
import waterwheel.desktop.model.SessionModel;

/** One channel's lane: its fader over its level after it, position, sends and VCAs, mute and solo. */
final class Lane extends ChannelRow {
    private static final double INDENT = 8;

    private final Region space = new Region();
    private final Button fold = new Button();
    private final Region colour = ColourMark.still();
    private final Label name = new Label();
    private final Fader fader;
    private final LevelBar bar;
    private final DbField db;
    private final RideMark ride;
    private final RideMark muteRide;
    private final PlaceControl place;
    private final ReturnSends sends;
    private final Label branches = new Label();
    private final ToggleButton mute;
    private final ToggleButton solo;
    /** Whether this fader moves without what is selected or linked, because Alt is held. */
    private boolean alone;

    Lane(SessionModel model, Channel channel, List<Bus> returns, Runnable toggle) {
        super(model, channel.id());
        getStyleClass().addAll("lane");
        setAccessibleRole(AccessibleRole.SLIDER);
        fold.getStyleClass().setAll("fold");
        fold.setOnAction(event -> toggle.run());
        fold.setFocusTraversable(false);
        name.getStyleClass().add("channel-name");
        HBox.setHgrow(name, Priority.ALWAYS);
        name.setMaxWidth(Double.MAX_VALUE);
        name.setMinWidth(0);
        HBox label = new HBox(4, space, fold, colour, name);
        label.setAlignment(Pos.CENTER_LEFT);
        label.setMinWidth(BlendView.NAME_WIDTH);
        label.setMaxWidth(BlendView.NAME_WIDTH);
        fader = new Fader("Fader of " + channel.name(), Fader.Travel.FADER, 0.1, 0, this::setFader);
        fader.setFocusTraversable(false);
        ride = RideMark.on(fader, model, () -> ControlId.ofStrip(id, Strip.FADER.key()));
        bar = new LevelBar(model.session().nominalDbfs());
        VBox level = new VBox(fader, bar);
        level.setAlignment(Pos.CENTER_LEFT);
        level.setMinWidth(BlendView.LEVEL_WIDTH);
        HBox.setHgrow(level, Priority.ALWAYS);
        db = new DbField("Fader of " + channel.name(), value -> setFader(value, ""));
        db.setMinWidth(BlendView.DB_WIDTH);
        db.setMaxWidth(BlendView.DB_WIDTH);
        db.setFocusTraversable(false);
        place = new PlaceControl(model, channel);
        place.setMinWidth(BlendView.PLACE_WIDTH);
        place.setMaxWidth(BlendView.PLACE_WIDTH);
        sends = new ReturnSends(model, channel.id(), returns);
        branches.getStyleClass().addAll("lane-words", "muted");
        branches.setMinWidth(BlendView.SENDS_WIDTH);
        branches.setMaxWidth(BlendView.SENDS_WIDTH);
        RideMark[] silences = new RideMark[1];
        mute = button("M", "Mute", "mute", on -> silences[0].move(on ? 1 : 0, ""));
        silences[0] = RideMark.on(mute, model, () -> ControlId.ofStrip(id, Strip.MUTED.key()));
        muteRide = silences[0];
        solo = button("S", "Solo", "solo", on -> each("Solo", c -> Edits.solo(c, on)));
        HBox buttons = new HBox(4, mute, solo);
        buttons.setMinWidth(BlendView.BUTTONS_WIDTH);
        buttons.setAlignment(Pos.CENTER_RIGHT);
        getChildren().addAll(label, level, db, place, sends, branches, buttons);
        addEventFilter(MouseEvent.ANY, event -> alone = event.isAltDown());
        addEventHandler(MouseEvent.MOUSE_PRESSED, this::press);
        setOnKeyPressed(this::key);
        // Not when the key goes down: its letter would be written into the field that is about to take the next ones.
        setOnKeyTyped(event -> {
            if (!inField(event) && event.getCharacter().equalsIgnoreCase("p")) {
                place.type();
                event.consume();
            }
        });
    }

    /** Takes what a toggle says. */
    private interface Switch {
        void set(boolean on);
    }

    private static ToggleButton button(String letter, String word, String style, Switch change) {
        ToggleButton button = new ToggleButton(letter);
        button.getStyleClass().addAll("small", style);
        button.setMinWidth(28);
        Hint.on(button, word + " (" + letter + ")");
        button.setAccessibleText(word);
        button.setFocusTraversable(false);
        button.setOnAction(event -> change.set(button.isSelected()));
        return button;
    }

    private Channel channel() {
        return model.session().channel(id);
    }

    private void each(String what, Function<Channel, Edit> edit) {
        model.edit(Edits.forEach(what, model.meant(channel()), edit));
    }

    private void showFader(Channel channel) {
        double shown = ride.show(channel.strip().faderDb());
        fader.show(shown);
        db.setValue(shown);
    }

    private void showMute(Channel channel) {
        mute.setSelected(muteRide.show(channel.strip().muted() ? 1 : 0) >= 0.5);
    }

    private void setFader(double value, String gesture) {
        if (alone) {
            ride.moveAlone(value, gesture);
        } else {
            ride.move(value, gesture);
        }
    }

    private void key(KeyEvent event) {
        if (inField(event)) {
            return;
        }
        double step = event.isShiftDown() ? 1 : 0.1;
        if (event.isAltDown() && (event.getCode() == KeyCode.LEFT || event.getCode() == KeyCode.RIGHT)) {
            double by = event.getCode() == KeyCode.RIGHT ? step : -step;
            model.edit(Edits.faderAlone(channel(), channel().strip().standingDb(Strip.FADER) + by));
            event.consume();
            return;
        }
        boolean taken = !event.isShortcutDown() && !event.isAltDown();
        if (taken) {
            switch (event.getCode()) {
                case RIGHT -> model.edit(Edits.fadersBy(model.meant(channel()), step));
                case LEFT -> model.edit(Edits.fadersBy(model.meant(channel()), -step));
                case DELETE, BACK_SPACE -> setFader(0, "");
                case ENTER -> db.requestFocus();
                case M -> muteRide.move(mute.isSelected() ? 0 : 1, "");
                case S -> each("Solo", c -> Edits.solo(c, !channel().strip().soloed()));
                case UP -> neighbour(-1, event.isShiftDown());
                case DOWN -> neighbour(1, event.isShiftDown());
                case SPACE -> taken = false;
                default -> taken = false;
            }
        }
        if (taken) {
            event.consume();
        }
    }

    void indent(int depth, boolean folds, boolean isFolded) {
        space.setMinWidth(INDENT * depth);
        fold.setVisible(folds);
        fold.setText(isFolded ? "+" : "−");
        fold.setAccessibleText(isFolded ? "Unfold" : "Fold");
        Hint.on(fold, isFolded ? "Show what feeds this bus" : "Hide what feeds this bus");
    }

    void update() {
        Channel channel = channel();
        name.setText(channel.name());
        ColourMark.paint(colour, channel instanceof Track track ? track.colour() : Track.Colour.NONE);
        showFader(channel);
        place.show(channel.strip().placement());
        sends.show(channel);
        showMute(channel);
        solo.setSelected(channel.strip().soloed());
        branches.setText(inWords(channel));
        Hint.on(branches, branches.getText().isEmpty() ? "Under no VCA, not linked, no key" : branches.getText());
        bar.setNominal(model.session().referenceDbfs(channel));
        ChannelLevels levels = model.levels().asked(id).orElse(null);
        if (levels == null) {
            bar.showPending();
        } else {
            bar.show(levels.at(Stage.FADER));
        }
        setAccessibleText(channel.name() + ", fader " + db.getText());
    }

    /** What has no column of its own: keys, sends to further returns, VCAs and link groups. */
    private String inWords(Channel channel) {
        List<String> words = new ArrayList<>();
        for (Send send : channel.strip().sends()) {
            Channel to = model.session().channel(send.target().channel());
            if (send.on() && send.target() instanceof Send.ToKey) {
                words.add("key of " + to.name());
            } else if (send.on() && !sends.shows(to.id())) {
                words.add(to.name() + " " + LevelText.signed(send.levelDb(), 0, true));
            }
        }
        model.session().vcas().stream()
                .filter(vca -> vca.members().contains(id))
                .forEach(vca -> words.add(vca.name()));
        model.session().links().stream()
                .filter(link -> link.members().contains(id))
                .forEach(link -> words.add(link.name()));
        return inLines(words);
    }

    /** In two lines, which is what there is room for. */
    private static String inLines(List<String> words) {
        int half = (words.size() + 1) / 2;
        return words.size() < 2
                ? String.join("", words)
                : String.join(", ", words.subList(0, half)) + "\n"
                        + String.join(", ", words.subList(half, words.size()));
    }

    void showLive(LivePeaks peaks, double seconds) {
        if (ride.moves()) {
            showFader(channel());
        }
        if (muteRide.moves()) {
            showMute(channel());
        }
        if (place.moves()) {
            place.show(channel().strip().placement());
        }
        bar.showLive(peaks.at(id, Stage.FADER), seconds);
    }
}
