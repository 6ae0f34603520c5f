package waterwheel.desktop.controllers;

import java.util.List;
import javafx.geometry.Pos;
import javafx.scene.control.Label;
import javafx.scene.control.ScrollPane;
import javafx.scene.control.ToggleButton;
import javafx.scene.layout.HBox;
import javafx.scene.layout.Priority;
import javafx.scene.layout.Region;
import javafx.scene.layout.VBox;
import javafx.util.Subscription;
import waterwheel.core.edit.ControllerEdits;
import waterwheel.core.rides.Control;
import waterwheel.core.session.Assignment;
import waterwheel.core.session.Controls;
import waterwheel.core.session.Session;
import waterwheel.core.units.LevelText;
import waterwheel.desktop.controls.Hint;
import waterwheel.desktop.controls.SmallButton;
import waterwheel.desktop.frame.BottomPanel;
import waterwheel.desktop.model.Controllers;
import waterwheel.desktop.model.SessionModel;

/** Which controllers are connected and what their parts move; and a simulated one for those who have none. */
public final class ControllersPanel extends BottomPanel {
    private static final double ROW_HEIGHT = 25;
    /** More of them are scrolled. */
    private static final int MOST_ROWS = 4;

    private final SessionModel model;
    private final Controllers controllers;
    private final Label connected = new Label();
    private final Label told = new Label();
    private final ToggleButton learn = new ToggleButton("Learn");
    private final VBox rows = new VBox(2);
    private final ScrollPane scroll = new ScrollPane(rows);
    private final SimulatedParts parts;

    public ControllersPanel(SessionModel model) {
        this.model = model;
        controllers = model.controllers();
        parts = new SimulatedParts(controllers.simulated());
        Label title = new Label("Controllers");
        title.getStyleClass().add("panel-title");
        connected.getStyleClass().add("muted");
        connected.setMinWidth(0);
        Hint.wholeText(connected);
        told.getStyleClass().add("muted");
        told.setMinWidth(0);
        Hint.wholeText(told);
        learn.getStyleClass().add("small");
        learn.setMinWidth(USE_PREF_SIZE);
        Hint.on(learn, "Make a part of a controller and a control belong together by moving both");
        learn.setOnAction(event -> controllers.learningProperty().set(learn.isSelected()));
        ToggleButton simulate = new ToggleButton("Simulated controller");
        simulate.getStyleClass().add("small");
        simulate.setMinWidth(USE_PREF_SIZE);
        Hint.on(simulate, "Show a controller that sends what a real one would");
        simulate.setOnAction(event -> parts.shown(simulate.isSelected()));
        SmallButton look = new SmallButton("Look again", "Look for controllers that were connected meanwhile");
        look.setOnAction(event -> controllers.look());
        SmallButton close = new SmallButton("Close", "Put the controllers away");
        close.setOnAction(event -> toggle());
        Region gap = new Region();
        HBox.setHgrow(gap, Priority.ALWAYS);
        HBox first = new HBox(8, title, connected, gap, learn, simulate, look, close);
        first.setAlignment(Pos.CENTER_LEFT);
        scroll.setFitToWidth(true);
        getChildren().addAll(first, told, scroll, parts);
    }

    @Override
    protected Subscription opened() {
        controllers.learningProperty().set(false);
        controllers.look();
        learn.requestFocus();
        return Subscription.combine(
                controllers.namesProperty().subscribe(this::showNames),
                controllers.movedProperty().subscribe(move -> showRows()),
                controllers.learningProperty().subscribe(on -> {
                    learn.setSelected(on);
                    showRows();
                }),
                model.hand().lastProperty().subscribe(id -> showRows()),
                model.historyProperty().subscribe(history -> showRows()));
    }

    @Override
    protected void putAway() {
        controllers.learningProperty().set(false);
    }

    private void showNames(List<String> names) {
        connected.setText(names.isEmpty() ? "No controller is connected" : "Connected: " + String.join(", ", names));
    }

    private void showRows() {
        List<Assignment> all = model.session().assignments();
        boolean learning = controllers.learningProperty().get();
        told.setText(
                learning
                        ? controllers.learningInWords()
                        : all.isEmpty()
                                ? "No part of a controller moves anything yet. Choose Learn, then move both."
                                : "");
        told.setVisible(!told.getText().isEmpty());
        told.setManaged(told.isVisible());
        scroll.setVisible(!all.isEmpty());
        scroll.setManaged(!all.isEmpty());
        scroll.setMinHeight(ROW_HEIGHT * Math.min(all.size(), MOST_ROWS) + 4);
        rows.getChildren().setAll(all.stream().map(this::row).toList());
    }

    private HBox row(Assignment one) {
        Label part = new Label(one.part().inWords());
        part.setMinWidth(250);
        part.setMaxWidth(250);
        Hint.wholeText(part);
        Label control = new Label(inWords(one));
        control.setMinWidth(0);
        Hint.wholeText(control);
        HBox.setHgrow(control, Priority.ALWAYS);
        control.setMaxWidth(Double.MAX_VALUE);
        SmallButton release = new SmallButton("Release", "Have this part move nothing any more");
        release.setOnAction(event -> model.edit(ControllerEdits.release(one.part())));
        HBox row = new HBox(8, part, control, release);
        row.setAlignment(Pos.CENTER_LEFT);
        return row;
    }

    private String inWords(Assignment one) {
        Session session = model.session();
        if (!Controls.has(session, one.control())) {
            return "moves nothing: its control is not there any more";
        }
        Control control = Controls.control(session, one.control());
        String name = Controls.name(session, one.control()) + " of " + Controls.ownerName(session, one.control());
        return "moves " + name
                + controllers
                        .awaited(one)
                        .map(value -> "; takes it up at "
                                + (LevelText.signed(value, control.unit().equals("Hz") ? 0 : 2, false) + " "
                                                + control.unit())
                                        .strip())
                        .orElse("");
    }
}
