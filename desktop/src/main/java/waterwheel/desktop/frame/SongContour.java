package waterwheel.desktop.frame;

import javafx.scene.AccessibleRole;
import javafx.scene.Node;
import javafx.scene.control.Label;
import javafx.scene.control.Tooltip;
import javafx.scene.input.KeyCode;
import javafx.scene.input.MouseEvent;
import javafx.scene.layout.Pane;
import javafx.scene.layout.Region;
import javafx.scene.shape.Polygon;
import org.jspecify.annotations.Nullable;
import waterwheel.core.metering.LevelSeries;
import waterwheel.core.metering.Loudness;
import waterwheel.core.session.Section;
import waterwheel.core.session.Session;
import waterwheel.desktop.model.SessionModel;

/** The whole song as a contour of momentary loudness with its sections; a click or the arrow keys go to a place. */
final class SongContour extends Pane {
    /** Loudness at the bottom and at the top of the contour, in LUFS. */
    private static final double LOWEST_LUFS = -42;

    private static final double HIGHEST_LUFS = 0;
    private static final double SECTION_HEIGHT = 16;
    private static final double KEY_SECONDS = 5;
    private static final double LETTER_WIDTH = 7;

    private final SessionModel model;
    private final Polygon contour = new Polygon();
    private final Region cursor = new Region();
    private final Pane sections = new Pane();
    private double[] momentary = {};
    private @Nullable LevelSeries shown;

    SongContour(SessionModel model) {
        this.model = model;
        getStyleClass().add("song-contour");
        contour.getStyleClass().add("contour");
        cursor.getStyleClass().add("cursor");
        contour.setMouseTransparent(true);
        cursor.setMouseTransparent(true);
        sections.setMouseTransparent(true);
        getChildren().addAll(contour, sections, cursor);
        setMinHeight(0);
        // The drawing follows the height that the strip gives, never the other way round.
        setPrefHeight(76);
        contour.setManaged(false);
        cursor.setManaged(false);
        sections.setManaged(false);
        setFocusTraversable(true);
        setAccessibleRole(AccessibleRole.SLIDER);
        setAccessibleText("Place in the song; left and right move by 5 seconds");
        Tooltip.install(
                this, new Tooltip("Loudness of the mix over the song. Click to go there, or arrow keys by 5 seconds"));
        setOnMousePressed(this::seek);
        setOnMouseDragged(this::seek);
        setOnKeyPressed(event -> {
            double at = model.transport().secondsProperty().get();
            if (event.getCode() == KeyCode.LEFT) {
                model.transport().seek(Math.max(0, at - KEY_SECONDS));
            } else if (event.getCode() == KeyCode.RIGHT) {
                model.transport().seek(Math.min(songSeconds(), at + KEY_SECONDS));
            } else if (event.getCode() == KeyCode.HOME) {
                model.transport().seek(0);
            } else {
                return;
            }
            event.consume();
        });
        for (Section section : model.session().sections()) {
            Label label = new Label(section.name());
            label.getStyleClass().add("section");
            sections.getChildren().add(label);
        }
        model.levelsProperty().subscribe(levels -> {
            LevelSeries series = levels.mainSeries();
            if (series != null && series != shown) {
                shown = series;
                momentary = Loudness.momentaryLufs(series);
                requestLayout();
            }
            contour.setOpacity(series == null ? 0.45 : 1);
        });
        model.transport().secondsProperty().subscribe(seconds -> placeCursor(seconds.doubleValue()));
    }

    private void seek(MouseEvent event) {
        requestFocus();
        model.transport().seek(Math.clamp(event.getX() / getWidth(), 0, 1) * songSeconds());
    }

    private double songSeconds() {
        Session session = model.session();
        return Math.max(0.001, (double) session.lengthFrames() / session.sampleRateHz());
    }

    private void placeCursor(double seconds) {
        cursor.resizeRelocate(snapPositionX(seconds / songSeconds() * getWidth()), 0, 2, getHeight());
    }

    @Override
    protected void layoutChildren() {
        double width = getWidth();
        double height = getHeight();
        double drawn = height - SECTION_HEIGHT;
        contour.getPoints().clear();
        contour.getPoints().addAll(0.0, height);
        int columns = (int) Math.max(1, width / 2);
        for (int c = 0; c <= columns; c++) {
            int from = (int) ((long) c * momentary.length / (columns + 1));
            int to = Math.max(from + 1, (int) ((c + 1L) * momentary.length / (columns + 1)));
            double loudest = LOWEST_LUFS;
            for (int i = from; i < Math.min(to, momentary.length); i++) {
                loudest = Math.max(loudest, momentary[i]);
            }
            double part = Math.clamp((loudest - LOWEST_LUFS) / (HIGHEST_LUFS - LOWEST_LUFS), 0, 1);
            contour.getPoints().addAll(c * width / columns, height - part * drawn);
        }
        contour.getPoints().addAll(width, height);
        sections.resizeRelocate(0, 0, width, SECTION_HEIGHT);
        for (int i = 0; i < sections.getChildren().size(); i++) {
            Section section = model.session().sections().get(i);
            double length = Math.max(1, model.session().lengthFrames());
            double from = section.startFrames() / length * width;
            double to = section.endFrames() / length * width;
            Node label = sections.getChildren().get(i);
            // A section too short for its name keeps its line.
            ((Label) label).setText(to - from > section.name().length() * LETTER_WIDTH ? section.name() : "");
            label.resizeRelocate(from, 0, Math.max(1, to - from), SECTION_HEIGHT);
        }
        placeCursor(model.transport().secondsProperty().get());
    }
}
