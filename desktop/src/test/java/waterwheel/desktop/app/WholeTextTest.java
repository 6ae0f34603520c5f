package waterwheel.desktop.app;

import static org.assertj.core.api.Assertions.assertThat;

import java.util.ArrayList;
import java.util.List;
import java.util.Objects;
import java.util.Optional;
import javafx.geometry.BoundingBox;
import javafx.geometry.Bounds;
import javafx.scene.Node;
import javafx.scene.Parent;
import javafx.scene.Scene;
import javafx.scene.control.Labeled;
import javafx.scene.control.TextField;
import javafx.scene.input.KeyCode;
import javafx.scene.layout.Region;
import javafx.scene.text.Text;
import org.jspecify.annotations.Nullable;
import org.junit.jupiter.api.AfterEach;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.DisplayNameGeneration;
import org.junit.jupiter.api.DisplayNameGenerator;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;
import org.junit.jupiter.params.provider.EnumSource;
import org.junit.jupiter.params.provider.ValueSource;
import waterwheel.core.edit.Edit;
import waterwheel.core.edit.FlowEdits;
import waterwheel.core.inserts.Insert;
import waterwheel.core.processing.Processors;
import waterwheel.core.session.Channel;
import waterwheel.core.session.ChannelId;
import waterwheel.core.session.Send;
import waterwheel.core.session.Track;
import waterwheel.desktop.controls.Hint;
import waterwheel.desktop.frame.BottomPanel;
import waterwheel.desktop.frame.Step;

/**
 * Words and figures stand on screen as a whole. What is longer than a name may be cut, if all of it is told when the
 * pointer rests on it.
 */
@DisplayNameGeneration(DisplayNameGenerator.ReplaceUnderscores.class)
class WholeTextTest extends DrivenApplication {
    private static final int LONGEST_WHOLE = 24;
    private static final Bounds EVERYWHERE = new BoundingBox(-1e6, -1e6, 2e6, 2e6);

    private double width;
    private double height;

    @BeforeEach
    void at_the_least_size_that_is_promised() {
        robot.interact(() -> {
            Scene scene = desk().window().getScene();
            width = scene.getWindow().getWidth();
            height = scene.getWindow().getHeight();
            scene.getWindow().setWidth(1_280);
            scene.getWindow().setHeight(800);
        });
    }

    @AfterEach
    void as_it_was() {
        robot.interact(() -> {
            desk().setLight(false);
            desk().window().getScene().getWindow().setWidth(width);
            desk().window().getScene().getWindow().setHeight(height);
        });
    }

    @ParameterizedTest
    @CsvSource({
        "STAGING, false",
        "INTAKE, false",
        "FLOW, false",
        "OUTBOARD, false",
        "BLEND, false",
        "RIDES, false",
        "STEMS, false",
        "STAGING, true",
        "FLOW, true",
        "BLEND, true",
        "STEMS, true"
    })
    void nothing_is_cut_and_every_figure_is_one(Step step, boolean light) throws Exception {
        show(step, light);
        awaitLevels();
        List<String> cut = new ArrayList<>();
        robot.interact(() -> {
            Parent root = laidOut();
            gather(root, root.getLayoutBounds(), cut);
        });
        assertThat(cut).isEmpty();
    }

    /** Also of those stages that must be scrolled to, and of inserts of every kind. */
    @Test
    void nothing_is_cut_in_the_path_of_any_channel() throws Exception {
        show(Step.BLEND, false);
        insertEveryKind();
        List<String> cut = new ArrayList<>();
        for (Channel channel : model().session().channels()) {
            robot.interact(() -> {
                model().select(channel.id());
                Node path = Objects.requireNonNull(laidOut().lookup(".path"));
                gather(path, EVERYWHERE, cut);
            });
        }
        assertThat(cut).isEmpty();
    }

    @ParameterizedTest
    @EnumSource(names = {"E", "K", "L", "P", "M"})
    void nothing_is_cut_in_what_a_key_opens_under_the_view(KeyCode key) throws Exception {
        show(Step.BLEND, false);
        awaitLevels();
        // The key would put away what another test left open.
        robot.interact(() -> panels().forEach(BottomPanel::toggle));
        robot.push(KeyCode.CONTROL, key);
        List<String> cut;
        try {
            cut = cutUnderTheView();
        } finally {
            // The next test finds it as it was.
            robot.push(KeyCode.CONTROL, key);
        }
        assertThat(cut).isEmpty();
    }

    @Test
    void nothing_is_cut_in_the_settings_of_any_kind_of_insert() throws Exception {
        show(Step.BLEND, false);
        insertEveryKind();
        List<String> cut = new ArrayList<>();
        for (Insert insert : last().strip().inserts()) {
            robot.interact(() -> desk().window().inserts().orElseThrow().open(insert.id()));
            cut.addAll(cutUnderTheView());
        }
        assertThat(cut).isEmpty();
    }

    private List<String> cutUnderTheView() {
        List<String> cut = new ArrayList<>();
        robot.interact(() -> {
            laidOut();
            assertThat(panels()).isNotEmpty().allSatisfy(panel -> gather(panel, EVERYWHERE, cut));
        });
        return cut;
    }

    /** On the last track, which is selected then. */
    private void insertEveryKind() throws Exception {
        robot.interact(() -> {
            Processors.kinds().forEach(kind -> model().edit(FlowEdits.addInsert(last(), kind)));
            model().select(last().id());
        });
        awaitLevels();
    }

    private Track last() {
        return model().session().tracks().getLast();
    }

    /** The columns of sends are as many as there is room for; what there is no column for is told in words. */
    @ParameterizedTest
    @ValueSource(ints = {1, 3, 5})
    void lanes_stay_within_their_view_however_many_returns_there_are(int more) {
        robot.interact(() -> {
            desk().window().show(Step.BLEND);
            for (int i = 0; i < more; i++) {
                model().edit(FlowEdits.addReturn("Plate " + i));
                ChannelId added = model().session()
                        .buses()
                        .get(model().session().buses().size() - 2)
                        .id();
                model().edit(new Edit(
                        "Send",
                        session -> session.withStrip(LEAD, strip -> {
                            List<Send> sends = new ArrayList<>(strip.sends());
                            sends.add(new Send(new Send.ToBus(added), 0, Optional.empty(), false, true));
                            return strip.withSends(sends);
                        })));
            }
            laidOut();
            Region view = (Region) Objects.requireNonNull(desk().window().view(Step.BLEND));
            assertThat(view.minWidth(-1)).isLessThanOrEqualTo(view.getWidth());
            Region lane = (Region) lane("Lead voice");
            assertThat(lane.minWidth(-1)).isLessThanOrEqualTo(lane.getWidth());
        });
    }

    /** @param sight what is in sight of the parent, in the scene */
    private static void gather(Node node, Bounds sight, List<String> cut) {
        if (!node.isVisible()) {
            return;
        }
        Bounds bounds = node.localToScene(node.getLayoutBounds());
        if (!sight.intersects(bounds)) {
            return;
        }
        String text =
                switch (node) {
                    case Labeled labeled when isCut(labeled) -> labeled.getText();
                    case TextField field when isCut(field) -> field.getText();
                    default -> null;
                };
        if (node instanceof Labeled figure
                && figure.getText() != null
                && figure.getText().contains("NaN")) {
            cut.add("no figure: '" + figure.getText() + "' in " + where(node));
        }
        if (text != null && !(text.length() > LONGEST_WHOLE && isTold(node, text))) {
            cut.add("'" + text + "' in " + where(node));
        }
        if (node instanceof Parent parent) {
            parent.getChildrenUnmodifiable().forEach(child -> gather(child, sight, cut));
        }
    }

    private static boolean isCut(Labeled labeled) {
        // A cell that shows something else than words has none.
        return !Objects.toString(labeled.getText(), "").isEmpty()
                && labeled.lookup(".text") instanceof Text shown
                && !shown.getText().equals(labeled.getText())
                && !labeled.isMnemonicParsing();
    }

    private static boolean isCut(TextField field) {
        if (!(field.lookup(".text") instanceof Text shown) || field.getText().isEmpty()) {
            return false;
        }
        double room = field.getWidth() - field.snappedLeftInset() - field.snappedRightInset();
        return shown.getLayoutBounds().getWidth() > room + 0.5;
    }

    /** Whether a tooltip of the node, or of what it lies in, tells its whole text. */
    private static boolean isTold(Node node, String text) {
        for (@Nullable Node at = node; at != null; at = at.getParent()) {
            if (Objects.toString(Hint.of(at), "").contains(text)) {
                return true;
            }
        }
        return false;
    }
}
