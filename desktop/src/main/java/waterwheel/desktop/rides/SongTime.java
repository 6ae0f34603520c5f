package waterwheel.desktop.rides;

import javafx.scene.AccessibleRole;
import javafx.scene.Node;
import javafx.scene.control.Label;
import javafx.scene.input.MouseEvent;
import javafx.scene.layout.Pane;
import javafx.scene.layout.Region;
import javafx.scene.shape.Polygon;
import waterwheel.core.metering.LevelSeries;
import waterwheel.core.path.Stage;
import waterwheel.core.rides.CurveRange;
import waterwheel.core.session.Section;
import waterwheel.core.session.Session;
import waterwheel.core.units.LevelText;
import waterwheel.desktop.controls.Hint;

/**
 * The time that is shown, in seconds and sections, over the selected channel's level as it leaves after all its curves. A
 * click on a section chooses its stretch, one below goes there.
 */
final class SongTime extends Pane {
    static final double HEIGHT = 78;
    private static final double SECTIONS = 15;
    private static final double TIMES = 14;
    private static final double LETTER_WIDTH = 7;
    private static final double[] DISTANCES = {0.1, 0.2, 0.5, 1, 2, 5, 10, 20, 30, 60, 120, 300, 600, 1_800};
    private static final double LEAST_APART = 64;

    private final RidesModel model;
    private final Pane sections = new Pane();
    private final Pane times = new Pane();
    private final Polygon level = new Polygon();
    private final Region range = new Region();
    private final Region playhead = new Region();

    SongTime(RidesModel model) {
        this.model = model;
        getStyleClass().add("song-time");
        setMinHeight(HEIGHT);
        setMaxHeight(HEIGHT);
        setAccessibleRole(AccessibleRole.IMAGE_VIEW);
        setAccessibleText("The selected channel's level over the song, behind all its curves");
        level.getStyleClass().add("contour");
        range.getStyleClass().add("section-drag");
        playhead.getStyleClass().add("cursor");
        getChildren().addAll(level, range, sections, times, playhead);
        getChildren().forEach(child -> {
            child.setManaged(false);
            child.setMouseTransparent(true);
        });
        Hint.on(
                this,
                "The channel's peak level as it leaves, from \u221260 to 0 dBFS. A click on a section chooses"
                        + " it, a click below goes there");
        setOnMouseClicked(this::click);
    }

    private void click(MouseEvent event) {
        long frame = model.span().frame(event.getX() / Math.max(1, getWidth()));
        Session session = model.session().session();
        if (event.getY() > SECTIONS) {
            model.session().transport().seek((double) frame / session.sampleRateHz());
            return;
        }
        model.chooseSectionAt(frame);
    }

    @Override
    protected void layoutChildren() {
        double width = getWidth();
        TimeSpan span = model.span();
        LevelSeries series = model.level(new RidesModel.Place(model.channel(), Stage.OUTPUT, ""));
        double top = SECTIONS + TIMES;
        level.setLayoutY(top);
        if (series != null) {
            LaneDrawing.drawLevel(level, series, span, width, getHeight() - top);
        } else {
            level.getPoints().clear();
        }
        int named = 0;
        for (Section section : model.session().session().sections()) {
            double from = Math.max(0, span.place(section.startFrames()) * width);
            double to = Math.min(width, span.place(section.endFrames()) * width);
            if (to > from) {
                Label label = label(sections, named++, "section");
                label.setText(to - from > section.name().length() * LETTER_WIDTH ? section.name() : "");
                label.resizeRelocate(from, 0, to - from, SECTIONS);
            }
        }
        hide(sections, named);
        int rate = model.session().session().sampleRateHz();
        double seconds = (double) span.length() / rate;
        double apart = DISTANCES[DISTANCES.length - 1];
        for (int i = DISTANCES.length - 1; i >= 0 && DISTANCES[i] / seconds * width >= LEAST_APART; i--) {
            apart = DISTANCES[i];
        }
        double first = Math.ceil((double) span.from() / rate / apart) * apart;
        int marked = 0;
        for (double at = first; at * rate < span.end(); at += apart) {
            Label label = label(times, marked++, "figure", "time-mark");
            label.setText(LevelText.time(at));
            label.resizeRelocate(span.place(Math.round(at * rate)) * width, SECTIONS, 60, TIMES);
        }
        hide(times, marked);
        CurveRange stretch = model.rangeProperty().get();
        range.setVisible(stretch != null);
        if (stretch != null) {
            double from = Math.max(-1, span.place(stretch.from()) * width);
            double to = Math.min(width + 1, span.place(stretch.to()) * width);
            range.setVisible(to > from);
            range.resizeRelocate(from, 0, Math.max(1, to - from), getHeight());
        }
        placePlayhead();
    }

    /** A label of some alike, which stay. */
    private static Label label(Pane alike, int place, String... styles) {
        if (place < alike.getChildren().size()) {
            Node there = alike.getChildren().get(place);
            there.setVisible(true);
            return (Label) there;
        }
        Label made = new Label();
        made.getStyleClass().addAll(styles);
        alike.getChildren().add(made);
        // Or it would have no letters until the next picture.
        made.applyCss();
        return made;
    }

    private static void hide(Pane alike, int from) {
        alike.getChildren().stream().skip(from).forEach(label -> label.setVisible(false));
    }

    void placePlayhead() {
        double x = model.span().place(model.playhead()) * getWidth();
        playhead.setVisible(x >= 0 && x <= getWidth());
        playhead.resizeRelocate(snapPositionX(x), 0, 1, getHeight());
    }
}
