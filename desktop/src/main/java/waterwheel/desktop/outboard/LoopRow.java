package waterwheel.desktop.outboard;

import java.util.Optional;
import javafx.css.PseudoClass;
import javafx.geometry.Pos;
import javafx.scene.AccessibleRole;
import javafx.scene.control.Label;
import javafx.scene.input.KeyCode;
import javafx.scene.layout.HBox;
import javafx.scene.layout.Priority;
import javafx.scene.layout.VBox;
import waterwheel.core.captures.HardwareSlot;
import waterwheel.core.captures.SlotState;
import waterwheel.core.inserts.Insert;
import waterwheel.core.metering.Figures;
import waterwheel.core.path.Stage;
import waterwheel.core.rack.Loop;
import waterwheel.core.rack.LoopTiming;
import waterwheel.core.rack.PortSide;
import waterwheel.core.rack.Unit;
import waterwheel.core.session.Session;
import waterwheel.core.units.LevelText;
import waterwheel.desktop.controls.Hint;
import waterwheel.desktop.controls.LevelBar;

/** One loop between the ports: whose it is, what is sent and what came back on one scale, and how far it has come. */
final class LoopRow extends HBox {
    private static final PseudoClass CHOSEN = PseudoClass.getPseudoClass("chosen");
    private static final PseudoClass OPEN = PseudoClass.getPseudoClass("open");
    private static final PseudoClass BYPASSED = PseudoClass.getPseudoClass("bypassed");
    static final double NAME_WIDTH = 132;
    static final double STATE_WIDTH = 110;

    private final OutboardModel model;
    private final HardwareSlot slot;
    private final Label channel = new Label();
    private final Label unit = new Label();
    private final LevelBar sent;
    private final LevelBar back;
    private final Label sentText = new Label();
    private final Label backText = new Label();
    private final Label time = new Label();
    private final Label capture = new Label();

    LoopRow(OutboardModel model, HardwareSlot slot) {
        this.model = model;
        this.slot = slot;
        getStyleClass().add("loop-row");
        setAlignment(Pos.CENTER_LEFT);
        setFocusTraversable(true);
        setAccessibleRole(AccessibleRole.BUTTON);
        sent = new LevelBar(model.session().nominalDbfs());
        back = new LevelBar(model.session().nominalDbfs());
        channel.getStyleClass().add("loop-channel");
        unit.getStyleClass().add("muted");
        Hint.wholeText(channel);
        Hint.wholeText(unit);
        VBox who = new VBox(channel, unit);
        who.setMinWidth(NAME_WIDTH);
        who.setMaxWidth(NAME_WIDTH);
        who.setAlignment(Pos.CENTER_LEFT);
        time.getStyleClass().addAll("figure", "muted");
        capture.getStyleClass().add("capture-state");
        Hint.wholeText(time);
        Hint.wholeText(capture);
        VBox state = new VBox(time, capture);
        state.setMinWidth(STATE_WIDTH);
        state.setMaxWidth(STATE_WIDTH);
        state.setAlignment(Pos.CENTER_LEFT);
        getChildren().addAll(who, level(sent, sentText), level(back, backText), state);
        setOnMouseClicked(event -> {
            requestFocus();
            model.select(slot);
        });
        setOnKeyPressed(event -> {
            if (event.getCode() == KeyCode.ENTER) {
                model.select(slot);
                event.consume();
            }
        });
    }

    private static VBox level(LevelBar bar, Label text) {
        text.getStyleClass().add("figure");
        text.setMinWidth(0);
        Hint.wholeText(text);
        VBox box = new VBox(2, bar, text);
        box.setAlignment(Pos.CENTER_LEFT);
        HBox.setHgrow(box, Priority.ALWAYS);
        box.setPrefWidth(100);
        return box;
    }

    HardwareSlot slot() {
        return slot;
    }

    void show(boolean chosen) {
        Session session = model.session();
        Insert insert = slot.insert(session);
        Loop loop = insert.processor().loop();
        pseudoClassStateChanged(CHOSEN, chosen);
        pseudoClassStateChanged(BYPASSED, insert.bypassed());
        channel.setText(session.channel(slot.channel()).name() + (insert.bypassed() ? " (bypassed)" : ""));
        unit.setText(loop.unit().flatMap(session.rack()::unit).map(Unit::name).orElse("no unit told"));
        show(sent, sentText, Stage.SENT, PortSide.OUTPUT, loop.sendPort());
        show(back, backText, Stage.RETURNED, PortSide.INPUT, loop.returnPort());
        time.setText(loop.timing().map(LoopRow::inWords).orElse(loop.patched() ? "not timed" : "no ports yet"));
        Optional<SlotState> state = model.state(slot);
        capture.setText(state.map(s -> s.state().label()).orElse("\u2026"));
        capture.pseudoClassStateChanged(OPEN, state.map(SlotState::open).orElse(false));
        setAccessibleText(channel.getText() + " through " + unit.getText() + ", sent " + sentText.getText()
                + ", came back " + backText.getText() + ", " + time.getText() + ", " + capture.getText());
    }

    private static String inWords(LoopTiming timing) {
        return LevelText.signed(timing.latencyFrames(), 2, false) + " samples";
    }

    /** The level at a port in both its units: full scale of the converter, and at the socket. */
    private void show(LevelBar bar, Label text, Stage stage, PortSide side, int port) {
        Optional<Figures> figures = model.figures(slot, stage);
        if (figures.isEmpty()) {
            bar.showPending();
            return;
        }
        Figures known = figures.get();
        bar.show(known);
        if (known.silent()) {
            text.setText("nothing");
            return;
        }
        double dbu = known.averageDbfs()
                + model.session().rack().port(side, Math.max(1, port)).fullScaleDbu();
        text.setText(LevelText.signed(known.averageDbfs(), 1, true)
                + (port == 0 ? "" : "   " + LevelText.signed(dbu, 1, true)));
        bar.setAccessibleText("Average " + LevelText.level(known.averageDbfs(), "dBFS") + ", "
                + LevelText.level(dbu, "dBu") + " at the socket");
    }
}
