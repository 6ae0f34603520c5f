package waterwheel.desktop.outboard;

import java.util.ArrayList;
import java.util.List;
import java.util.function.UnaryOperator;
import javafx.geometry.Pos;
import javafx.geometry.Side;
import javafx.scene.Node;
import javafx.scene.control.ContextMenu;
import javafx.scene.control.CustomMenuItem;
import javafx.scene.control.Label;
import javafx.scene.control.MenuItem;
import javafx.scene.control.SeparatorMenuItem;
import javafx.scene.control.TextField;
import javafx.scene.layout.HBox;
import waterwheel.core.edit.InputEdits;
import waterwheel.core.edit.RackEdits;
import waterwheel.core.rack.Port;
import waterwheel.core.rack.PortSide;
import waterwheel.desktop.controls.DbField;
import waterwheel.desktop.controls.Hint;

/** A port's name and calibration, set beside it. */
final class PortEditor {
    private PortEditor() {}

    static void open(OutboardModel model, PortSide side, int number, Node beside) {
        Port port = model.session().rack().port(side, number);
        TextField name = new TextField(port.name());
        name.setPromptText("no name of its own");
        name.setPrefColumnCount(12);
        name.setAccessibleText("Name of " + side.label() + " " + number);
        Hint.on(name, "The name of this port; Enter takes it");
        DbField full = new DbField(
                "The level at the socket that full scale is",
                "dBu",
                db -> edit(model, side, number, p -> p.withFullScaleDbu(Math.clamp(db, 0, 30))));
        full.setValue(port.fullScaleDbu());
        HBox line = new HBox(8, new Label("Name"), name, new Label("0 dBFS is"), full);
        line.setAlignment(Pos.CENTER_LEFT);
        CustomMenuItem item = new CustomMenuItem(line, false);
        ContextMenu menu = new ContextMenu(item);
        if (side == PortSide.INPUT) {
            menu.getItems().add(new SeparatorMenuItem());
            menu.getItems().addAll(feeding(model, number));
        }
        name.setOnAction(event -> menu.hide());
        menu.setOnHidden(event ->
                edit(model, side, number, p -> p.withName(name.getText().strip())));
        menu.setOnShown(event -> name.requestFocus());
        menu.show(beside, side == PortSide.OUTPUT ? Side.RIGHT : Side.LEFT, 0, 0);
    }

    /** What the input can feed. */
    private static List<MenuItem> feeding(OutboardModel model, int number) {
        List<MenuItem> items = new ArrayList<>();
        items.add(item("New track from Input " + number, () -> model.newTrack(number, 1)));
        items.add(item(
                "New stereo track from Inputs " + number + " and " + (number + 1), () -> model.newTrack(number, 2)));
        model.feedable()
                .ifPresent(track -> items.add(item(
                        "Feed " + track.name() + (track.planes() == 2 ? " from here and the next" : " from here"),
                        () -> model.edit(InputEdits.input(track, number)))));
        return items;
    }

    private static MenuItem item(String name, Runnable action) {
        MenuItem item = new MenuItem(name);
        item.setOnAction(event -> action.run());
        return item;
    }

    private static void edit(OutboardModel model, PortSide side, int number, UnaryOperator<Port> change) {
        Port before = model.session().rack().port(side, number);
        if (!change.apply(before).equals(before)) {
            model.edit(RackEdits.port(side, number, change));
        }
    }
}
