package waterwheel.desktop.blend;

import java.util.ArrayList;
import java.util.List;
import javafx.geometry.Pos;
import javafx.scene.layout.HBox;
import org.jspecify.annotations.Nullable;
import waterwheel.core.session.Bus;
import waterwheel.core.session.Channel;
import waterwheel.core.session.ChannelId;
import waterwheel.core.session.ControlId;
import waterwheel.core.session.Send;
import waterwheel.core.session.Session;
import waterwheel.core.units.LevelText;
import waterwheel.desktop.controls.Fader;
import waterwheel.desktop.controls.Hint;
import waterwheel.desktop.controls.RideMark;
import waterwheel.desktop.model.SessionModel;

/** A lane's sends, each a small fader in the column of its return; sends to more returns are in the words beside. */
final class ReturnSends extends HBox {
    static final double COLUMN_WIDTH = 58;
    /** More are not told apart at a glance; their sends are in the words beside. */
    private static final int MOST_COLUMNS = 6;

    private final SessionModel model;
    private final ChannelId id;
    private final List<ChannelId> returns;
    private final List<Fader> faders = new ArrayList<>();
    private final List<RideMark> marks = new ArrayList<>();

    ReturnSends(SessionModel model, ChannelId id, List<Bus> returns) {
        super(4);
        this.model = model;
        this.id = id;
        this.returns = returns.stream().map(Bus::id).toList();
        for (Bus bus : returns) {
            int column = marks.size();
            Fader fader =
                    new Fader("Send to " + bus.name(), Fader.Travel.FADER, 0.1, 0, (db, gesture) -> marks.get(column)
                            .move(db, gesture));
            fader.setMinWidth(COLUMN_WIDTH - 4);
            fader.setMaxWidth(COLUMN_WIDTH - 4);
            fader.setFocusTraversable(false);
            marks.add(RideMark.on(fader, model, () -> controlId(bus.id())));
            faders.add(fader);
            getChildren().add(fader);
        }
        setAlignment(Pos.CENTER_LEFT);
        setMinWidth(COLUMN_WIDTH * returns.size());
        setMaxWidth(COLUMN_WIDTH * returns.size());
    }

    /** Whether sends to a bus have a column. */
    boolean shows(ChannelId bus) {
        return returns.contains(bus);
    }

    /**
     * The buses that sends go to, in the session's order; as many as have a column.
     *
     * @param room for columns, in pixels
     */
    static List<Bus> returns(Session session, double room) {
        return session.buses().stream()
                .filter(bus -> session.channels().stream().anyMatch(c -> c.strip().sends().stream()
                        .anyMatch(send -> send.target().equals(new Send.ToBus(bus.id())))))
                .limit((long) Math.clamp(room / COLUMN_WIDTH, 1, MOST_COLUMNS))
                .toList();
    }

    private static int index(Channel channel, ChannelId bus) {
        List<Send> sends = channel.strip().sends();
        for (int i = 0; i < sends.size(); i++) {
            if (sends.get(i).target().equals(new Send.ToBus(bus))) {
                return i;
            }
        }
        return -1;
    }

    private @Nullable ControlId controlId(ChannelId bus) {
        Channel channel = model.session().find(id).orElse(null);
        int index = channel == null ? -1 : index(channel, bus);
        return index < 0 ? null : ControlId.ofSend(id, index, Send.LEVEL.key());
    }

    void show(Channel channel) {
        for (int i = 0; i < faders.size(); i++) {
            int index = index(channel, returns.get(i));
            Fader fader = faders.get(i);
            fader.setVisible(index >= 0);
            if (index >= 0) {
                Send send = channel.strip().sends().get(index);
                double level = marks.get(i).show(send.levelDb());
                fader.show(level);
                fader.setOpacity(send.on() ? 1 : 0.35);
                Hint.on(
                        fader,
                        "Send to "
                                + model.session().channel(returns.get(i)).name() + " "
                                + LevelText.level(level, "dB") + (send.preFader() ? ", before the fader" : "")
                                + (send.on() ? "" : ", off"));
            }
        }
    }
}
