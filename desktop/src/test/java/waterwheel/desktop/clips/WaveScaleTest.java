package waterwheel.desktop.clips;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.within;

import java.util.List;
import javafx.geometry.Bounds;
import javafx.scene.Node;
import javafx.scene.Scene;
import javafx.scene.control.Label;
import javafx.scene.layout.Region;
import org.junit.jupiter.api.BeforeAll;
import org.junit.jupiter.api.DisplayNameGeneration;
import org.junit.jupiter.api.DisplayNameGenerator;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.ValueSource;
import org.testfx.api.FxRobot;
import org.testfx.api.FxToolkit;
import waterwheel.core.session.Bus;
import waterwheel.core.session.ChannelId;
import waterwheel.core.session.Output;
import waterwheel.core.session.PanLaw;
import waterwheel.core.session.Session;
import waterwheel.core.session.Strip;
import waterwheel.core.session.Track;

/** The scale at the side of a waveform: full scale is half of the height. */
@DisplayNameGeneration(DisplayNameGenerator.ReplaceUnderscores.class)
class WaveScaleTest {
    private static final ChannelId MAIN = new ChannelId("main");

    private final FxRobot robot = new FxRobot();
    private WaveScale scale = new WaveScale();

    @BeforeAll
    static void start() throws Exception {
        FxToolkit.registerPrimaryStage();
    }

    private void show(Track.Kind kind, double trimDb, double height) {
        Track track = new Track(
                new ChannelId("one"),
                "One",
                kind,
                1,
                List.of(),
                Strip.unity(Output.to(MAIN)).withTrimDb(trimDb));
        Session session = new Session(
                "Test",
                48_000,
                PanLaw.MINUS_3,
                -18,
                List.of(),
                List.of(track, new Bus(MAIN, "Main", Strip.unity(new Output.Nowhere()))),
                MAIN,
                List.of());
        robot.interact(() -> {
            scale = new WaveScale();
            Scene unused = new Scene(scale, 400, height);
            scale.resize(400, height);
            scale.show(session, track);
            scale.applyCss();
            scale.layout();
        });
    }

    private List<Node> lines(String style) {
        return scale.getChildren().stream()
                .filter(node -> node instanceof Region && node.getStyleClass().contains(style) && node.isVisible())
                .toList();
    }

    @Test
    void a_height_reads_as_the_level_of_a_sample_that_is_drawn_there() {
        show(Track.Kind.SUSTAINED, 0, 200);
        assertThat(scale.dbfsAt(0)).isCloseTo(0, within(1e-9));
        assertThat(scale.dbfsAt(200)).isCloseTo(0, within(1e-9));
        assertThat(scale.dbfsAt(50)).as("half of full scale").isCloseTo(-6.02, within(0.01));
        assertThat(scale.dbfsAt(150)).isCloseTo(-6.02, within(0.01));
        assertThat(scale.dbfsAt(90)).as("a tenth").isCloseTo(-20, within(0.01));
        assertThat(scale.dbfsAt(100)).isEqualTo(Double.NEGATIVE_INFINITY);
    }

    @Test
    void target_and_guard_stand_where_the_trim_takes_to_them_in_both_halves() {
        // The average of sustained material belongs at -18 dBFS, no peak past -6: before 4 dB of trim 22 and 10 below.
        show(Track.Kind.SUSTAINED, 4, 1_000);
        for (var expected : List.of(List.of("target-line", -22.0), List.of("guard-line", -10.0))) {
            List<Node> both = lines((String) expected.get(0));
            assertThat(both).hasSize(2);
            assertThat(both).allSatisfy(line -> assertThat(scale.dbfsAt(line.getLayoutY()))
                    .isCloseTo((double) expected.get(1), within(0.2)));
            assertThat(both.get(0).getLayoutY()).isLessThan(500);
            assertThat(both.get(1).getLayoutY()).isGreaterThan(500);
        }
    }

    @Test
    void what_lies_beyond_full_scale_or_belongs_to_no_mix_has_no_line() {
        show(Track.Kind.SUSTAINED, -30, 200);
        assertThat(lines("target-line"))
                .as("the trim turns down by more than there is")
                .isEmpty();
        show(Track.Kind.CUE, 0, 200);
        assertThat(lines("guard-line")).isEmpty();
    }

    @ParameterizedTest
    @ValueSource(doubles = {60, 110, 200, 600})
    void figures_never_overlap_and_full_scale_is_always_told(double height) {
        show(Track.Kind.CUE, 0, height);
        List<Label> figures = scale.getChildren().stream()
                .filter(node -> node instanceof Label label && label.isVisible())
                .map(Label.class::cast)
                .toList();
        assertThat(figures)
                .extracting(Label::getText)
                .filteredOn("0 dBFS"::equals)
                .hasSize(2);
        for (Label one : figures) {
            Bounds bounds = one.getBoundsInParent();
            assertThat(bounds.getMinY()).isGreaterThanOrEqualTo(0);
            assertThat(bounds.getMaxY()).isLessThanOrEqualTo(height);
            assertThat(figures)
                    .filteredOn(other -> other != one)
                    .noneMatch(other -> other.getBoundsInParent().getMinY() < bounds.getMaxY() - 0.5
                            && bounds.getMinY() < other.getBoundsInParent().getMaxY() - 0.5);
        }
    }
}
