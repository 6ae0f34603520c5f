package waterwheel.desktop.app;

import static org.assertj.core.api.Assertions.assertThat;

import java.util.ArrayList;
import java.util.List;
import java.util.stream.IntStream;
import javafx.scene.control.ListView;
import javafx.scene.input.KeyCode;
import org.junit.jupiter.api.DisplayNameGeneration;
import org.junit.jupiter.api.DisplayNameGenerator;
import org.junit.jupiter.api.Test;
import waterwheel.core.freezing.FreezeRun;

/** What everything costs is seen: while playing, unheard, before a freeze and after it. */
@DisplayNameGeneration(DisplayNameGenerator.ReplaceUnderscores.class)
class LoadTest extends DrivenApplication {
    private ListView<?> list() {
        return shown(ListView.class, view -> "What every channel and slot takes".equals(view.getAccessibleText()));
    }

    /** As they are at one time: the interface's thread lists them anew while levels come in. */
    private List<String> lines() {
        List<String> lines = new ArrayList<>();
        robot.interact(() -> list().getItems().forEach(line -> lines.add(line.toString())));
        return lines;
    }

    @Test
    void measured_unheard_it_is_listed_the_dearest_first_and_beside_the_slots_of_the_path() throws Exception {
        robot.interact(() -> model().select(LEAD));
        robot.push(KeyCode.SHORTCUT, KeyCode.L);
        robot.interact(() -> button("Measure").fire());
        until(() -> model().transport().loads().loadProperty().get() != null);
        assertThat(lines()).hasSizeGreaterThan(20);
        assertThat(lines()).anyMatch(line -> line.contains("channel=Hall, what=Reverb"));
        assertThat(texts()).anyMatch(text -> text.startsWith("all: ") && text.contains("% of a block of"));
        assertThat(texts()).anyMatch(text -> text.matches("[0-9.]+ %"));
        // Choosing a line selects its channel.
        robot.interact(() -> {
            List<?> items = list().getItems();
            int hall = IntStream.range(0, items.size())
                    .filter(i -> items.get(i).toString().contains("channel=Hall,"))
                    .findFirst()
                    .orElseThrow();
            list().getSelectionModel().select(hall);
        });
        assertThat(model().selectedChannel().name()).isEqualTo("Hall");
        robot.push(KeyCode.ESCAPE);
        assertThat(visible(robot.from(desk().window()).lookup(".load-panel").query()))
                .isFalse();
    }

    @Test
    void playing_shows_it_too_and_a_freeze_says_what_it_saves_before_and_after() throws Exception {
        robot.interact(() -> {
            model().select(LEAD);
            model().transport().seek(30);
            model().transport().playOrStop();
        });
        until(() -> model().transport().loads().loadProperty().get() != null);
        FreezeRun.Wanted wanted = FreezeRun.Wanted.last(model().session().channel(LEAD));
        double saves = model().transport()
                .loads()
                .saving(model().session(), List.of(wanted))
                .orElseThrow();
        assertThat(saves).isPositive();
        choose("Freeze", "Through Compressor");
        until(() -> model().session().channel(LEAD).strip().freeze().isPresent());
        until(() -> texts().anyMatch(text -> text.contains("% of a block, saved ")));
        robot.interact(() -> model().transport().stop());
    }
}
