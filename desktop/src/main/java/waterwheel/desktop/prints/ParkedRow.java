package waterwheel.desktop.prints;

import java.util.stream.Collectors;
import javafx.geometry.Pos;
import javafx.scene.control.Label;
import javafx.scene.layout.HBox;
import javafx.scene.layout.Priority;
import waterwheel.core.edit.Parking;
import waterwheel.core.errors.RoutingException;
import waterwheel.core.session.Channel;
import waterwheel.core.session.Parked;
import waterwheel.desktop.controls.Hint;
import waterwheel.desktop.controls.SmallButton;
import waterwheel.desktop.model.SessionModel;

/** A parked channel: what stands in for it, what was parked along, and the way back. */
final class ParkedRow extends HBox {
    ParkedRow(SessionModel model, Parked parked) {
        super(8);
        setAlignment(Pos.CENTER_LEFT);
        String name = parked.channel().name();
        String along = parked.along().isEmpty()
                ? ""
                : ", with "
                        + parked.along().stream()
                                .map(one -> one.channel().name())
                                .collect(Collectors.joining(", "));
        String place = model.session()
                .find(parked.channel().id())
                .map(Channel::name)
                .map(now -> "; " + now + " is in its place")
                .orElse("");
        Label what = new Label(name + along + place);
        what.setMinWidth(0);
        what.setMaxWidth(Double.MAX_VALUE);
        Hint.wholeText(what);
        HBox.setHgrow(what, Priority.ALWAYS);
        SmallButton back =
                new SmallButton("Bring back", "Put " + name + " back in place, as it was; its print is parked");
        back.setAccessibleText("Bring back " + name);
        back.setOnAction(event -> {
            try {
                model.edit(Parking.bringBack(model.session(), parked));
            } catch (RoutingException e) {
                model.tell(String.valueOf(e.getMessage()));
            }
        });
        SmallButton go = new SmallButton("Let go", "Take " + name + " out of the session; its files stay on disk");
        go.setAccessibleText("Let go of " + name);
        go.setOnAction(event -> model.edit(Parking.letGo(parked)));
        getChildren().addAll(what, back, go);
    }
}
