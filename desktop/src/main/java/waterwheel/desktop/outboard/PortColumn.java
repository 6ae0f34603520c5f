package waterwheel.desktop.outboard;

import java.util.ArrayList;
import java.util.List;
import javafx.css.PseudoClass;
import javafx.scene.AccessibleRole;
import javafx.scene.Node;
import javafx.scene.control.Label;
import javafx.scene.input.KeyCode;
import javafx.scene.layout.Priority;
import javafx.scene.layout.VBox;
import waterwheel.core.captures.PortUsers;
import waterwheel.core.rack.PortSide;
import waterwheel.core.session.Session;
import waterwheel.desktop.controls.Hint;

/** One side's ports from top to bottom, each with who uses it; two users are a mistake that is seen. */
final class PortColumn extends VBox {
    private static final PseudoClass FREE = PseudoClass.getPseudoClass("free");
    private static final PseudoClass TWICE = PseudoClass.getPseudoClass("twice");
    private static final double WIDTH = 121;

    private final OutboardModel model;
    private final PortSide side;
    private final List<VBox> sockets = new ArrayList<>();
    private final List<Label> names = new ArrayList<>();
    private final List<Label> usedBy = new ArrayList<>();

    PortColumn(OutboardModel model, PortSide side) {
        this.model = model;
        this.side = side;
        getStyleClass().add("ports");
        setMinWidth(WIDTH);
        setMaxWidth(WIDTH);
        offer(1);
    }

    private void offer(int count) {
        if (count == sockets.size()) {
            return;
        }
        sockets.clear();
        names.clear();
        usedBy.clear();
        for (int i = 1; i <= count; i++) {
            add(i);
        }
        getChildren().setAll(sockets);
    }

    private void add(int number) {
        Label name = new Label();
        name.getStyleClass().add("port-name");
        Label user = new Label();
        user.getStyleClass().add("port-user");
        user.setMinWidth(0);
        VBox socket = new VBox(name, user);
        socket.getStyleClass().addAll("socket", side == PortSide.OUTPUT ? "socket-out" : "socket-in");
        VBox.setVgrow(socket, Priority.ALWAYS);
        socket.setFocusTraversable(true);
        socket.setAccessibleRole(AccessibleRole.BUTTON);
        socket.setOnMouseClicked(event -> {
            socket.requestFocus();
            PortEditor.open(model, side, number, socket);
        });
        socket.setOnKeyPressed(event -> {
            if (event.getCode() == KeyCode.ENTER) {
                PortEditor.open(model, side, number, socket);
                event.consume();
            }
        });
        Hint.on(
                socket,
                "Click, or Enter, for this port's name and calibration"
                        + (side == PortSide.INPUT ? ", and for what it feeds" : ""));
        sockets.add(socket);
        names.add(name);
        usedBy.add(user);
    }

    /** The port of a number from 1; the last one for any beyond. */
    Node socket(int number) {
        return sockets.get(Math.clamp(number, 1, sockets.size()) - 1);
    }

    /** @param there how many ports of this side the interface has; those that are used beyond are shown too */
    void show(Session session, PortUsers users, int there) {
        offer(Math.max(Math.max(1, there), users.last(side)));
        for (int number = 1; number <= sockets.size(); number++) {
            List<String> who = users.of(side, number).stream()
                    .map(user -> user.label(session))
                    .toList();
            names.get(number - 1).setText(session.rack().port(side, number).label());
            String all = who.isEmpty() ? "free" : String.join(", ", who);
            usedBy.get(number - 1).setText(who.size() < 2 ? all : who.getFirst() + " +" + (who.size() - 1));
            Hint.on(usedBy.get(number - 1), all);
            VBox socket = sockets.get(number - 1);
            socket.pseudoClassStateChanged(FREE, who.isEmpty());
            socket.pseudoClassStateChanged(TWICE, users.rivals(side, number).size() > 1);
            socket.setAccessibleText(session.rack().port(side, number).label() + ": " + all);
        }
    }
}
