package waterwheel.desktop.app;

import static org.assertj.core.api.Assertions.assertThat;

import java.util.ArrayList;
import java.util.Collections;
import java.util.List;
import java.util.Set;
import java.util.TreeSet;
import javafx.scene.Node;
import javafx.scene.Parent;
import javafx.scene.layout.BackgroundFill;
import javafx.scene.layout.Region;
import javafx.scene.paint.Color;
import javafx.scene.paint.Paint;
import javafx.scene.text.Text;
import org.jspecify.annotations.Nullable;
import org.junit.jupiter.api.AfterEach;
import org.junit.jupiter.api.DisplayNameGeneration;
import org.junit.jupiter.api.DisplayNameGenerator;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;
import waterwheel.core.edit.Edits;
import waterwheel.desktop.frame.Step;

/** Words can be read on what lies behind them: contrast of 4.5 to 1 or more (WCAG 2.2, success criterion 1.4.3). */
@DisplayNameGeneration(DisplayNameGenerator.ReplaceUnderscores.class)
class ContrastTest extends DrivenApplication {
    private static final double LEAST = 4.5;
    private static final List<String> BEHIND = List.of("-ww-ground", "-ww-panel", "-ww-raised", "-ww-selection");
    private static final List<String> WRITTEN =
            List.of("-ww-text", "-ww-text-muted", "-ww-level-strong", "-ww-nominal", "-ww-loss", "-ww-caution");

    @AfterEach
    void in_the_dark_theme() {
        robot.interact(() -> desk().setLight(false));
    }

    @ParameterizedTest
    @CsvSource({"false", "true"})
    void every_colour_of_words_can_be_read_on_every_ground(boolean light) {
        List<String> faint = new ArrayList<>();
        robot.interact(() -> {
            desk().setLight(light);
            for (String behind : BEHIND) {
                for (String written : WRITTEN) {
                    double contrast = contrast(colour(written), colour(behind));
                    if (contrast < LEAST) {
                        faint.add("%s on %s: %.2f".formatted(written, behind, contrast));
                    }
                }
            }
        });
        assertThat(faint).isEmpty();
    }

    /** What a name of the palette stands for, by a node that is filled with it. */
    private Color colour(String name) {
        Region probe = new Region();
        probe.setStyle("-fx-background-color: " + name + ";");
        desk().window().getChildren().add(probe);
        probe.applyCss();
        Color colour = (Color) probe.getBackground().getFills().getFirst().getFill();
        desk().window().getChildren().remove(probe);
        return colour;
    }

    @ParameterizedTest
    @CsvSource({
        "INTAKE, false", "INTAKE, true",
        "STAGING, false", "STAGING, true",
        "FLOW, false", "FLOW, true",
        "OUTBOARD, false", "OUTBOARD, true",
        "BLEND, false", "BLEND, true",
        "RIDES, false", "RIDES, true",
        "STEMS, false", "STEMS, true"
    })
    void words_in_sight_can_be_read(Step step, boolean light) throws Exception {
        Set<String> faint = new TreeSet<>();
        show(step, light);
        robot.interact(() -> model().edit(Edits.mute(model().selectedChannel(), true)));
        awaitLevels();
        robot.interact(() -> gather(laidOut(), faint));
        assertThat(faint).isEmpty();
    }

    private static void gather(Node node, Set<String> faint) {
        // What cannot be used just now may be faint; that is how it is told.
        if (!node.isVisible() || node.isDisabled()) {
            return;
        }
        if (node instanceof Text text && !text.getText().isBlank() && text.getFill() instanceof Color written) {
            Color behind = behind(text);
            double contrast = contrast(over(written.deriveColor(0, 1, 1, opacity(text)), behind), behind);
            if (contrast < LEAST) {
                faint.add("%.2f: '%s' in %s".formatted(contrast, text.getText(), where(text)));
            }
        }
        if (node instanceof Parent parent) {
            parent.getChildrenUnmodifiable().forEach(child -> gather(child, faint));
        }
    }

    private static double opacity(Node node) {
        double opacity = 1;
        for (@Nullable Node at = node; at != null; at = at.getParent()) {
            opacity *= at.getOpacity();
        }
        return opacity;
    }

    /** The colour that a node is written on: the fills of all that it lies in, laid over one another. */
    private static Color behind(Node node) {
        List<Color> fills = new ArrayList<>();
        for (@Nullable Parent at = node.getParent(); at != null; at = at.getParent()) {
            if (at instanceof Region region && region.getBackground() != null) {
                List<BackgroundFill> own = region.getBackground().getFills();
                for (int i = own.size() - 1; i >= 0; i--) {
                    Paint fill = own.get(i).getFill();
                    if (fill instanceof Color colour) {
                        fills.add(colour);
                    }
                }
            }
        }
        Collections.reverse(fills);
        Color behind = Color.BLACK;
        for (Color fill : fills) {
            behind = over(fill, behind);
        }
        return behind;
    }

    private static Color over(Color front, Color behind) {
        return behind.interpolate(Color.color(front.getRed(), front.getGreen(), front.getBlue()), front.getOpacity());
    }

    /** WCAG 2.2: relative luminances with 0.05 added, the lighter by the darker. */
    private static double contrast(Color one, Color other) {
        double a = luminance(one) + 0.05;
        double b = luminance(other) + 0.05;
        return Math.max(a, b) / Math.min(a, b);
    }

    private static double luminance(Color colour) {
        return 0.2126 * linear(colour.getRed())
                + 0.7152 * linear(colour.getGreen())
                + 0.0722 * linear(colour.getBlue());
    }

    private static double linear(double part) {
        return part <= 0.04045 ? part / 12.92 : Math.pow((part + 0.055) / 1.055, 2.4);
    }
}
