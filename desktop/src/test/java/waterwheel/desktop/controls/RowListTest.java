package waterwheel.desktop.controls;

import static org.assertj.core.api.Assertions.assertThat;

import java.util.ArrayList;
import java.util.List;
import java.util.concurrent.TimeUnit;
import java.util.function.BooleanSupplier;
import java.util.stream.IntStream;
import javafx.scene.Node;
import javafx.scene.Scene;
import javafx.scene.control.Button;
import javafx.scene.control.Label;
import javafx.scene.control.ScrollPane;
import javafx.scene.layout.HBox;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.DisplayNameGeneration;
import org.junit.jupiter.api.DisplayNameGenerator;
import org.junit.jupiter.api.Test;

/** A list of many rows, of which those that are seen are there. */
@DisplayNameGeneration(DisplayNameGenerator.ReplaceUnderscores.class)
class RowListTest extends InAWindow {
    private static final int HEIGHT = 20;
    private static final int SEEN = 10;

    private final List<Integer> everMade = new ArrayList<>();
    private final ScrollPane scroll = new ScrollPane();
    private final RowList<Integer, HBox> list = new RowList<>(scroll, HEIGHT, this::row);

    @BeforeEach
    void show_the_empty_list() {
        robot.interact(() -> showScene(new Scene(scroll, 200, SEEN * HEIGHT)));
    }

    private HBox row(int number) {
        everMade.add(number);
        Button button = new Button("Row " + number);
        // Or the window would give it the keyboard.
        button.setFocusTraversable(false);
        HBox row = new HBox(button);
        row.setMinHeight(HEIGHT);
        row.setPrefHeight(HEIGHT);
        row.setMaxHeight(HEIGHT);
        return row;
    }

    private void show(int rows) {
        robot.interact(() -> list.show(
                IntStream.range(0, rows).mapToObj(RowList.Entry.Row::new).toList()));
    }

    private static int number(Node row) {
        return Integer.parseInt(
                ((Button) ((HBox) row).getChildren().getFirst()).getText().substring("Row ".length()));
    }

    private List<Integer> there() {
        List<Integer> there = new ArrayList<>();
        robot.interact(() -> list.made().forEach(row -> there.add(number(row))));
        return there;
    }

    private void until(BooleanSupplier condition) throws InterruptedException {
        long end = System.nanoTime() + TimeUnit.SECONDS.toNanos(20);
        while (!condition.getAsBoolean() && System.nanoTime() < end) {
            Thread.sleep(10);
        }
        assertThat(condition.getAsBoolean()).as("within 20 s").isTrue();
    }

    @Test
    void a_short_list_is_whole_at_once() {
        show(40);
        assertThat(there())
                .containsExactlyElementsOf(IntStream.range(0, 40).boxed().toList());
    }

    @Test
    void of_a_long_list_what_is_seen_is_there_and_what_was_left_is_not() throws Exception {
        show(500);
        assertThat(there()).as("at once").hasSizeBetween(SEEN, 40);
        robot.interact(() -> scroll.setVvalue(1));
        until(() -> there().containsAll(IntStream.range(500 - SEEN, 500).boxed().toList()));
        until(() -> !there().contains(0));
        assertThat(there()).hasSizeLessThan(60);
        assertThat(everMade).as("none of those between").doesNotContain(250);
        robot.interact(() -> scroll.setVvalue(0));
        until(() -> there().contains(0));
    }

    @Test
    void places_are_as_if_every_row_were_there() throws Exception {
        show(500);
        until(() -> list.getHeight() == 500.0 * HEIGHT);
        robot.interact(() -> list.bring(300));
        assertThat(there()).contains(300);
        double top = scroll.getVvalue() * (list.getHeight() - SEEN * HEIGHT);
        // The last of what is seen: scrolled as little as shows it.
        assertThat(top).isBetween((300.0 - SEEN) * HEIGHT, (302.0 - SEEN) * HEIGHT);
    }

    @Test
    void the_row_with_the_keyboard_stays_however_far_one_scrolls() throws Exception {
        show(500);
        robot.interact(() ->
                list.made().findFirst().orElseThrow().getChildren().getFirst().requestFocus());
        robot.interact(() -> scroll.setVvalue(1));
        until(() -> there().contains(499));
        until(() -> !there().contains(1));
        assertThat(there()).contains(0);
    }

    @Test
    void rows_of_another_height_lie_where_that_puts_them() throws Exception {
        show(500);
        until(() -> list.getHeight() == 500.0 * HEIGHT);
        robot.interact(() -> list.setRowHeight(2 * HEIGHT));
        until(() -> list.getHeight() == 1_000.0 * HEIGHT);
        robot.interact(() -> scroll.setVvalue(1));
        until(() ->
                there().containsAll(IntStream.range(500 - SEEN / 2, 500).boxed().toList()));
        List<Integer> seen = new ArrayList<>();
        robot.interact(() -> list.inSight().forEach(row -> seen.add(number(row))));
        assertThat(seen)
                .containsExactlyElementsOf(
                        IntStream.range(500 - SEEN / 2, 500).boxed().toList());
    }

    @Test
    void rows_that_are_shown_again_stay_the_same_and_others_may_stand_between() {
        show(3);
        List<HBox> before = new ArrayList<>();
        robot.interact(() -> list.made().forEach(before::add));
        robot.interact(() -> list.show(List.of(
                new RowList.Entry.Row<>(2),
                new RowList.Entry.Between<>(new Label("and")),
                new RowList.Entry.Row<>(0))));
        List<HBox> after = new ArrayList<>();
        robot.interact(() -> list.made().forEach(after::add));
        assertThat(after).containsExactly(before.get(2), before.get(0));
        assertThat(everMade).containsExactly(0, 1, 2);
    }
}
