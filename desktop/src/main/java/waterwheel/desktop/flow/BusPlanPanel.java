package waterwheel.desktop.flow;

import java.util.ArrayList;
import java.util.List;
import java.util.OptionalInt;
import javafx.css.PseudoClass;
import javafx.geometry.Point2D;
import javafx.geometry.Pos;
import javafx.scene.control.Label;
import javafx.scene.control.MenuItem;
import javafx.scene.control.ScrollPane;
import javafx.scene.layout.HBox;
import javafx.scene.layout.Priority;
import javafx.scene.layout.Region;
import javafx.scene.layout.VBox;
import org.jspecify.annotations.Nullable;
import waterwheel.core.intake.BusPlan;
import waterwheel.core.session.ChannelId;
import waterwheel.desktop.controls.SmallButton;
import waterwheel.desktop.model.SessionModel;

/** Buses proposed from the tracks' names: named, left out, their tracks moved from one to another, and made. */
final class BusPlanPanel extends VBox {
    private static final PseudoClass TARGET = PseudoClass.getPseudoClass("target");

    private final SessionModel model;
    private final VBox body = new VBox(2);
    private final ScrollPane scroll = new ScrollPane(body);
    private final SmallButton make =
            new SmallButton("Make them", "Make the chosen buses and have their tracks feed them");
    private final List<BusPlanRow> rows = new ArrayList<>();
    private BusPlan plan = new BusPlan(List.of(), List.of());

    BusPlanPanel(SessionModel model) {
        this.model = model;
        getStyleClass().add("bus-plan");
        scroll.setFitToWidth(true);
        scroll.setFocusTraversable(false);
        VBox.setVgrow(scroll, Priority.ALWAYS);
        VBox.setVgrow(this, Priority.ALWAYS);
        Label title = new Label("Proposed buses");
        Label how = new Label("Drag a track to another bus, or open it for the list.");
        how.getStyleClass().add("muted");
        how.setMinWidth(0);
        Region gap = new Region();
        HBox.setHgrow(gap, Priority.ALWAYS);
        SmallButton another = new SmallButton("Another bus", "One more bus, for tracks of your choice");
        another.setOnAction(event -> {
            show(plan.withGroup("Bus"));
            rows.get(plan.groups().size() - 1).type();
        });
        make.setOnAction(event -> {
            BusPlan chosen = plan;
            close();
            model.edit(chosen.edit());
        });
        SmallButton leave = new SmallButton("Leave it", "Put the proposals away");
        leave.setOnAction(event -> close());
        HBox heading = new HBox(6, title, how, gap, another, make, leave);
        heading.setAlignment(Pos.CENTER_LEFT);
        getChildren().addAll(heading, scroll);
        close();
        model.keep(model.historyProperty().subscribe(history -> close()));
    }

    void open() {
        BusPlan proposed = BusPlan.of(model.session());
        if (proposed.groups().isEmpty()) {
            model.tell("No bus to propose: of the tracks that feed the main bus directly, no two belong to one family"
                    + " by their names.");
            return;
        }
        show(proposed);
        setVisible(true);
        setManaged(true);
        make.requestFocus();
    }

    private void close() {
        setVisible(false);
        setManaged(false);
    }

    private void show(BusPlan shown) {
        plan = shown;
        rows.clear();
        for (int i = 0; i < plan.groups().size(); i++) {
            rows.add(groupRow(i));
        }
        rows.add(new BusPlanRow("Stay on the main bus", tracks(plan.loose(), OptionalInt.empty())));
        body.getChildren().setAll(rows);
    }

    private BusPlanRow groupRow(int group) {
        BusPlan.Group one = plan.groups().get(group);
        return new BusPlanRow(
                one,
                plan.depth(group),
                tracks(one.tracks(), OptionalInt.of(group)),
                name -> BusPlan.joined(model.session(), name).isPresent(),
                wanted -> plan = plan.withMade(group, wanted),
                name -> plan = plan.withName(group, name));
    }

    private List<PlannedTrack> tracks(List<ChannelId> ids, OptionalInt group) {
        return ids.stream().map(id -> planned(id, group)).toList();
    }

    private PlannedTrack planned(ChannelId track, OptionalInt group) {
        return new PlannedTrack(
                model.session().channel(track).name(), () -> places(track, group), this::over, at -> drop(track, at));
    }

    private List<MenuItem> places(ChannelId track, OptionalInt group) {
        List<MenuItem> places = new ArrayList<>();
        for (int i = 0; i < plan.groups().size(); i++) {
            if (!group.equals(OptionalInt.of(i))) {
                places.add(place("To " + plan.groups().get(i).name(), track, OptionalInt.of(i)));
            }
        }
        if (group.isPresent()) {
            places.add(place("Stay on the main bus", track, OptionalInt.empty()));
        }
        return places;
    }

    private MenuItem place(String name, ChannelId track, OptionalInt group) {
        MenuItem item = new MenuItem(name);
        item.setOnAction(event -> move(track, group));
        return item;
    }

    private void move(ChannelId track, OptionalInt group) {
        show(plan.withTrack(model.session(), track, group));
        rows.get(group.orElse(rows.size() - 1))
                .focus(model.session().channel(track).name());
    }

    /** Marks the row that a dragged track is over. */
    private void over(@Nullable Point2D at) {
        int target = at == null ? -1 : rowAt(at);
        for (int i = 0; i < rows.size(); i++) {
            rows.get(i).pseudoClassStateChanged(TARGET, i == target);
        }
    }

    private void drop(ChannelId track, Point2D at) {
        int row = rowAt(at);
        if (row >= 0) {
            move(track, row < plan.groups().size() ? OptionalInt.of(row) : OptionalInt.empty());
        }
    }

    /** The row at a place in the scene; -1 where there is none. */
    private int rowAt(Point2D at) {
        for (int i = 0; i < rows.size(); i++) {
            if (rows.get(i).contains(rows.get(i).sceneToLocal(at))) {
                return i;
            }
        }
        return -1;
    }
}
