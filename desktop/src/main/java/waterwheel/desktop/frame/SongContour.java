package waterwheel.desktop.frame;

import java.util.List;
import javafx.css.PseudoClass;
import javafx.scene.AccessibleRole;
import javafx.scene.Node;
import javafx.scene.control.Label;
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
import waterwheel.desktop.controls.Hint;
import waterwheel.desktop.model.SessionModel;

/**
 * The whole song as a contour of momentary loudness with its sections; a click or the arrow keys go to a place. In the
 * band at the top a click chooses a section, or the whole song again, and a drag makes a new one.
 */
final class SongContour extends Pane {
    /** Loudness at the bottom and at the top of the contour, in LUFS. */
    private static final double LOWEST_LUFS = -42;

    private static final double HIGHEST_LUFS = 0;
    private static final double SECTION_HEIGHT = 16;
    private static final double KEY_SECONDS = 5;
    private static final double LETTER_WIDTH = 7;
    private static final double SHORTEST_DRAG = 4;
    private static final PseudoClass CHOSEN = PseudoClass.getPseudoClass("chosen");

    private final SessionModel model;
    private final Polygon contour = new Polygon();
    private final Region cursor = new Region();
    private final Pane sections = new Pane();
    private double[] momentary = {};
    private final SectionChoice sectionChoice;
    private final Region dragged = new Region();
    private @Nullable LevelSeries shown;
    private double dragFromX = Double.NaN;

    SongContour(SessionModel model, SectionChoice sectionChoice) {
        this.model = model;
        this.sectionChoice = sectionChoice;
        getStyleClass().add("song-contour");
        contour.getStyleClass().add("contour");
        cursor.getStyleClass().add("cursor");
        contour.setMouseTransparent(true);
        cursor.setMouseTransparent(true);
        sections.setMouseTransparent(true);
        dragged.getStyleClass().add("section-drag");
        dragged.setMouseTransparent(true);
        dragged.setManaged(false);
        dragged.setVisible(false);
        getChildren().addAll(contour, sections, dragged, cursor);
        setMinHeight(0);
        // The drawing follows the height that the strip gives, never the other way round.
        setPrefHeight(76);
        contour.setManaged(false);
        cursor.setManaged(false);
        sections.setManaged(false);
        setFocusTraversable(true);
        setAccessibleRole(AccessibleRole.SLIDER);
        setAccessibleText("Place in the song; left and right move by 5 seconds");
        Hint.on(
                this,
                "Loudness of the mix over the song. Click to go there, or arrow keys by 5 seconds. In the upper"
                        + " edge a click shows a section's figures, and a drag makes a section");
        setOnMousePressed(this::press);
        setOnMouseDragged(this::drag);
        setOnMouseReleased(this::release);
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
        model.keep(model.historyProperty().subscribe(history -> showSections()));
        model.keep(model.sectionProperty().subscribe(section -> showSections()));
        model.keep(model.levelsProperty().subscribe(levels -> {
            LevelSeries series = levels.mainSeries();
            if (series != null && series != shown) {
                shown = series;
                momentary = Loudness.momentaryLufs(series);
                requestLayout();
            }
            contour.setOpacity(series == null ? 0.45 : 1);
        }));
        model.keep(model.transport().secondsProperty().subscribe(seconds -> placeCursor(seconds.doubleValue())));
    }

    private void showSections() {
        List<Section> present = model.session().sections();
        while (sections.getChildren().size() > present.size()) {
            sections.getChildren().removeLast();
        }
        while (sections.getChildren().size() < present.size()) {
            Label label = new Label();
            label.getStyleClass().add("section");
            sections.getChildren().add(label);
        }
        for (int i = 0; i < present.size(); i++) {
            boolean chosen = present.get(i).equals(model.sectionProperty().get());
            sections.getChildren().get(i).pseudoClassStateChanged(CHOSEN, chosen);
        }
        requestLayout();
    }

    private void press(MouseEvent event) {
        if (event.getY() < SECTION_HEIGHT) {
            requestFocus();
            dragFromX = event.getX();
        } else {
            seek(event);
        }
    }

    private void drag(MouseEvent event) {
        if (Double.isNaN(dragFromX)) {
            seek(event);
            return;
        }
        double left = Math.max(0, Math.min(dragFromX, event.getX()));
        double right = Math.min(getWidth(), Math.max(dragFromX, event.getX()));
        dragged.setVisible(right - left > SHORTEST_DRAG);
        dragged.resizeRelocate(left, 0, right - left, getHeight());
    }

    private void release(MouseEvent event) {
        if (Double.isNaN(dragFromX)) {
            return;
        }
        double from = dragFromX;
        dragFromX = Double.NaN;
        dragged.setVisible(false);
        if (Math.abs(event.getX() - from) > SHORTEST_DRAG) {
            long one = frameAt(from);
            long other = frameAt(event.getX());
            if (one != other) {
                sectionChoice.add(Math.min(one, other), Math.max(one, other));
            }
        } else {
            chooseAt(frameAt(event.getX()));
        }
    }

    /** Chooses the section at a place; the whole song where there is none, or where it was chosen already. */
    private void chooseAt(long frame) {
        Section there = model.session().sections().stream()
                .filter(s -> s.startFrames() <= frame && frame < s.endFrames())
                .reduce((first, later) -> later)
                .orElse(null);
        model.chooseSection(
                there == null || there.equals(model.sectionProperty().get()) ? null : there);
    }

    private long frameAt(double x) {
        return Math.round(Math.clamp(x / getWidth(), 0, 1) * model.session().lengthFrames());
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
