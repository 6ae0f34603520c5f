package waterwheel.desktop.app;

import static org.assertj.core.api.Assertions.assertThat;

import java.util.ArrayList;
import java.util.HashSet;
import java.util.List;
import java.util.Set;
import java.util.concurrent.atomic.AtomicInteger;
import javafx.collections.ListChangeListener;
import javafx.scene.Node;
import javafx.scene.control.Label;
import javafx.scene.control.ScrollPane;
import javafx.scene.input.KeyCode;
import javafx.scene.layout.VBox;
import javafx.scene.shape.Polyline;
import org.junit.jupiter.api.Test;
import org.testfx.util.WaitForAsyncUtils;
import waterwheel.core.edit.Edit;
import waterwheel.core.inserts.Insert;
import waterwheel.core.inserts.Parameter;
import waterwheel.core.inserts.SlotId;
import waterwheel.core.processing.Equaliser;
import waterwheel.core.rides.Curve;
import waterwheel.core.rides.CurvePoint;
import waterwheel.core.rides.Ride;
import waterwheel.core.rides.Rides;
import waterwheel.desktop.rides.RidesView;

/** More curves than the window holds. */
class RidesScrollTest extends DrivenApplication {
    private static final int SLOTS = 5;

    private static List<Insert> everythingRidden() {
        List<Insert> inserts = new ArrayList<>();
        for (int i = 0; i < SLOTS; i++) {
            Rides rides = Rides.NONE;
            for (Parameter parameter : Equaliser.KIND.parameters()) {
                if (!parameter.built()) {
                    rides = rides.with(
                            parameter.key(),
                            Ride.of(new Curve(List.of(
                                    new CurvePoint(0, parameter.least(), CurvePoint.Shape.LINE),
                                    new CurvePoint(96_000, parameter.most(), CurvePoint.Shape.LINE)))));
                }
            }
            inserts.add(Insert.of(new SlotId("all" + i), Equaliser.KIND).withRides(rides));
        }
        return inserts;
    }

    @Test
    void scrolling_draws_only_what_comes_into_sight() throws Exception {
        ScrollPane scroll = everythingShown();
        RidesView rides = robot.lookup(node -> node instanceof RidesView).query();
        VBox lanes = (VBox) scroll.getContent();
        Set<Node> lines = new HashSet<>();
        // All the way once, so that every lane is made.
        for (int step = 0; step <= 20; step++) {
            scrollTo(scroll, step / 20.0);
            robot.interact(() -> lines.addAll(lanes.lookupAll(".ride-written")));
        }
        assertThat(lines).hasSameSizeAs(lanes.getChildren());
        assertThat(lanes.lookupAll(".ride-written"))
                .as("those far from what is seen are not in the picture")
                .hasSizeLessThan(lines.size());
        AtomicInteger drawn = new AtomicInteger();
        robot.interact(
                () -> lines.forEach(line -> ((Polyline) line).getPoints().addListener((ListChangeListener<Double>)
                        change -> drawn.incrementAndGet())));
        // Levels that come in the meantime draw lanes anew; when they are there, nothing does.
        for (int pass = 0; pass < 6 && (pass == 0 || drawn.get() > 0); pass++) {
            until(() -> rides.ready());
            drawn.set(0);
            for (int step = 0; step <= 20; step++) {
                scrollTo(scroll, pass % 2 == 0 ? 1 - step / 20.0 : step / 20.0);
            }
        }
        assertThat(drawn).hasValue(0);
        robot.interact(() -> model().undo());
        WaitForAsyncUtils.waitForFxEvents();
    }

    /** Rides, with more lanes than the window holds. */
    private ScrollPane everythingShown() throws Exception {
        robot.interact(() -> {
            model().select(LEAD);
            model().edit(new Edit(
                    "Everything ridden",
                    session -> session.withStrip(LEAD, strip -> strip.withInserts(everythingRidden()))));
        });
        robot.push(KeyCode.CONTROL, KeyCode.DIGIT6);
        awaitLevels();
        return robot.lookup(node -> node instanceof ScrollPane pane
                        && visible(pane)
                        && pane.getContent() instanceof VBox lanes
                        && lanes.getChildren().size() >= SLOTS * 10)
                .query();
    }

    /** Those just out of sight are in the picture already. */
    @Test
    void a_lane_that_comes_into_sight_reads_where_the_song_stands_now() throws Exception {
        robot.interact(() -> model().transport().seek(0));
        ScrollPane scroll = everythingShown();
        VBox lanes = (VBox) scroll.getContent();
        double lane = lanes.getHeight() / lanes.getChildren().size();
        double seen = scroll.getViewportBounds().getHeight();
        int next = (int) Math.ceil(seen / lane) + 1;
        until(() -> lanes.getChildren().get(next).lookup(".figure") != null);
        String before = reading(lanes, next);
        robot.interact(() -> model().transport().seek(2));
        robot.interact(() -> scroll.setVvalue(lane * (next - 1) / (lanes.getHeight() - seen)));
        assertThat(reading(lanes, next)).isNotEqualTo(before);
        robot.interact(() -> {
            model().transport().seek(0);
            model().undo();
        });
        WaitForAsyncUtils.waitForFxEvents();
    }

    private static String reading(VBox lanes, int row) {
        return ((Label) lanes.getChildren().get(row).lookup(".figure")).getText();
    }

    /** Scrolls, and waits for the lanes that come into sight. */
    private void scrollTo(ScrollPane scroll, double to) throws Exception {
        VBox lanes = (VBox) scroll.getContent();
        robot.interact(() -> scroll.setVvalue(to));
        int there = (int) Math.round(to * (lanes.getChildren().size() - 1));
        until(() -> lanes.getChildren().get(there).lookup(".ride-written") != null);
        WaitForAsyncUtils.waitForFxEvents();
    }
}
