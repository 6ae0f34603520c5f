package waterwheel.desktop.controls;

import java.util.function.Supplier;
import javafx.scene.layout.VBox;
import waterwheel.core.session.Channel;
import waterwheel.core.session.ChannelId;
import waterwheel.core.session.ControlId;
import waterwheel.core.session.Placement;
import waterwheel.desktop.model.SessionModel;

/** A channel's placement: seen and dragged as a stretch between left and right, read and typed below it. */
public final class PlaceControl extends VBox {
    private final PlaceBar bar;
    private final PlaceField field;
    private final RideMark position;
    private final RideMark width;
    private final boolean twoSides;

    public PlaceControl(SessionModel model, Channel channel) {
        ChannelId id = channel.id();
        twoSides = channel.planes() == 2;
        RideMark[] marks = new RideMark[2];
        bar = new PlaceBar(
                channel.name(),
                twoSides,
                (at, gesture) -> marks[0].move(at, gesture),
                (across, gesture) -> marks[1].move(across, gesture));
        marks[0] = RideMark.on(bar, "position", model, id(id, Placement.POSITION.key()));
        marks[1] = RideMark.on(bar, "width", model, id(id, Placement.WIDTH.key()));
        position = marks[0];
        width = marks[1];
        bar.setFocusTraversable(false);
        field = new PlaceField(channel.name(), twoSides, typed -> {
            String gesture = "placement typed " + System.nanoTime();
            typed.position().ifPresent(at -> position.move(at, gesture));
            if (twoSides) {
                typed.width().ifPresent(across -> width.move(across, gesture));
            }
        });
        field.setFocusTraversable(false);
        getChildren().addAll(bar, field);
    }

    private static Supplier<ControlId> id(ChannelId channel, String key) {
        return () -> ControlId.ofStrip(channel, key);
    }

    /** Shows a placement, or what curves make of it at the playhead. */
    public void show(Placement set) {
        double at = position.reading(set.position());
        double across = width.reading(set.width());
        bar.show(at, across, set.mode() == Placement.Mode.BALANCE, moves());
        field.show(PlaceText.of(at, across, twoSides));
    }

    /** Whether a curve moves it. */
    public boolean moves() {
        return position.moves() || (twoSides && width.moves());
    }

    /** Takes what is typed next. */
    public void type() {
        field.requestFocus();
        field.selectAll();
    }
}
