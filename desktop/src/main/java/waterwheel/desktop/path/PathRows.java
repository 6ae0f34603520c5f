package waterwheel.desktop.path;

import java.util.ArrayList;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.function.Consumer;
import java.util.function.Supplier;
import waterwheel.core.inserts.Insert;
import waterwheel.core.inserts.SlotId;
import waterwheel.core.load.Load;
import waterwheel.core.path.Stage;
import waterwheel.core.session.Bus;
import waterwheel.core.session.Channel;
import waterwheel.core.session.Track;
import waterwheel.desktop.frame.WorkLine;
import waterwheel.desktop.model.SessionModel;

/**
 * The rows of whatever channel is shown, from its source to its destinations. Those of stages are made when a channel
 * first needs them, and stay: to make and style a path anew takes longer than one sees between two presses of a key. The
 * small ones between them are made for each channel, because a menu that was open once opens at the size that it had.
 */
final class PathRows {
    /** What rows open and start outside of the path. */
    record Doors(WorkLine work, Runnable clips, Consumer<SlotId> insert, Runnable prints) {}

    private final SessionModel model;
    private final Doors doors;
    private final ShownChannel shown;
    private final StageControls controls;
    private final FlowControls flow;
    private FreezeRow freeze;
    private final Map<String, StageRow> stages = new HashMap<>();
    private final Map<String, PathRow> branches = new HashMap<>();

    PathRows(SessionModel model, Doors doors) {
        this.model = model;
        this.doors = doors;
        shown = new ShownChannel(model);
        controls = new StageControls(model, shown);
        flow = new FlowControls(model, shown, doors.insert());
        freeze = freezeRow();
    }

    private FreezeRow freezeRow() {
        return new FreezeRow(model, doors.work(), shown, doors.prints());
    }

    ShownChannel shown() {
        return shown;
    }

    /** Has the rows be another channel's. */
    void show(Channel channel) {
        shown.show(channel.id());
        freeze = freezeRow();
        branches.clear();
        stages.values().forEach(StageRow::forget);
    }

    void showLoad(Channel channel, Load load) {
        freeze.showLoad(channel, load);
    }

    /** The rows that the shown channel has, in signal order. */
    List<PathRow> of(Channel channel) {
        List<PathRow> rows = new ArrayList<>();
        switch (channel) {
            case Track track -> {
                rows.add(stage(Stage.SOURCE, "", controls::source));
                rows.add(
                        track.played().isPresent()
                                ? stage(Stage.CLIPS, "notes", () -> controls.notes(doors.clips(), doors.work()))
                                        .of("", "Notes")
                                : stage(Stage.CLIPS, "", () -> controls.clips(doors.clips())));
            }
            case Bus _ -> rows.add(stage(Stage.INPUT, "", controls::input));
        }
        rows.add(stage(Stage.TRIM, "", controls::trim));
        List<Insert> inserts = channel.strip().inserts();
        for (int i = 0; i < inserts.size(); i++) {
            int place = i;
            rows.add(stage(Stage.INSERT, String.valueOf(i), () -> flow.insert(place))
                    .of(
                            inserts.get(i).id().value(),
                            inserts.get(i).processor().kind().label()));
        }
        rows.add(branch("add insert", flow::addInsert));
        rows.add(branch("freeze", () -> new StageControls.Control(freeze, freeze::show)));
        rows.add(stage(Stage.FADER, "", controls::fader));
        int planes = channel.planes();
        rows.add(stage(Stage.PLACEMENT, String.valueOf(planes), () -> controls.placement(planes)));
        for (int i = 0; i < channel.strip().sends().size(); i++) {
            int place = i;
            rows.add(branch("send " + i, () -> flow.send(place)));
        }
        String whose = shown.isMain() ? "main" : "";
        rows.add(branch("branches " + whose, flow::branches));
        rows.add(stage(Stage.OUTPUT, whose, controls::output));
        return rows;
    }

    private StageRow stage(Stage stage, String which, Supplier<StageControls.Control> control) {
        return stages.computeIfAbsent(stage + " " + which, key -> new StageRow(stage, control.get(), model));
    }

    private PathRow branch(String which, Supplier<StageControls.Control> control) {
        return branches.computeIfAbsent(which, key -> PathRow.ofBranch(control.get()));
    }
}
