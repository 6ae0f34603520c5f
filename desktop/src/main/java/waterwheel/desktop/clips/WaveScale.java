package waterwheel.desktop.clips;

import java.util.ArrayList;
import java.util.List;
import javafx.scene.control.Label;
import javafx.scene.layout.Pane;
import javafx.scene.layout.Region;
import waterwheel.core.session.Session;
import waterwheel.core.session.Strip;
import waterwheel.core.session.Track;
import waterwheel.core.units.Decibels;
import waterwheel.core.units.LevelText;

/**
 * The level scale of a waveform whose height is full scale, in both halves: dBFS at its side, and lines where the track's
 * target and the peak guard lie. Both are told of the level after the trim, so they stand where the trim takes to them.
 */
final class WaveScale extends Pane {
    private static final double[] MARKS_DBFS = {0, -3, -6, -12, -20};
    private static final double LABEL_WIDTH = 30;
    private static final double LABEL_HEIGHT = 12;

    /** Of each mark the one in the upper half and the one in the lower. */
    private final List<Label> labels = new ArrayList<>();

    private final Line target = new Line("target-line");
    private final Line guard = new Line("guard-line");

    /** A level in both halves, with its name. */
    private final class Line {
        private final Region upper = new Region();
        private final Region lower = new Region();
        private final Label name = new Label();
        private double dbfs = Double.NaN;

        Line(String styleClass) {
            for (Region part : List.of(upper, lower)) {
                part.getStyleClass().add(styleClass);
            }
            name.getStyleClass().addAll("wave-scale", styleClass + "-name");
            WaveScale.this.getChildren().addAll(upper, lower, name);
        }

        void show(double level, String words) {
            dbfs = level;
            name.setText(words);
        }

        void place() {
            boolean shown = dbfs <= 0;
            for (Region part : List.of(upper, lower, name)) {
                part.setVisible(shown);
            }
            if (shown) {
                double y = y(dbfs);
                upper.resizeRelocate(LABEL_WIDTH, snapPositionY(y), getWidth() - LABEL_WIDTH, 1);
                lower.resizeRelocate(LABEL_WIDTH, snapPositionY(getHeight() - y), getWidth() - LABEL_WIDTH, 1);
                // Away from the middle, where the sound is.
                name.resizeRelocate(LABEL_WIDTH + 4, Math.max(0, y - LABEL_HEIGHT), name.prefWidth(-1), LABEL_HEIGHT);
            }
        }
    }

    WaveScale() {
        setMouseTransparent(true);
        for (double db : MARKS_DBFS) {
            for (int half = 0; half < 2; half++) {
                Label label = new Label(db == 0 ? "0 dBFS" : LevelText.signed(db, 0, false));
                label.getStyleClass().add("wave-scale");
                labels.add(label);
            }
        }
        getChildren().addAll(labels);
    }

    /** Shows the lines of a track. */
    void show(Session session, Track track) {
        double trim = track.strip().standingDb(Strip.TRIM);
        double reference = session.referenceDbfs(track);
        double percussive = session.staging().percussivePeakDbfs();
        switch (track.kind()) {
            case SUSTAINED -> target.show(reference - trim, "average " + LevelText.level(reference, "dBFS"));
            case PERCUSSIVE -> target.show(percussive - trim, "peaks " + LevelText.level(percussive, "dBFS"));
            case CUE -> target.show(Double.NaN, "");
        }
        double most = session.staging().guardPeakDbfs();
        guard.show(track.cue() ? Double.NaN : most - trim, "peak guard " + LevelText.level(most, "dBFS"));
        requestLayout();
    }

    /** Where a level stands in the upper half. */
    private double y(double dbfs) {
        return getHeight() / 2 * (1 - Decibels.toFactor(dbfs));
    }

    /** The level at a height, of whichever half. */
    double dbfsAt(double y) {
        return Decibels.ofFactor(Math.abs(1 - 2 * y / Math.max(1, getHeight())));
    }

    @Override
    protected void layoutChildren() {
        double below = Double.NEGATIVE_INFINITY;
        for (int i = 0; i < labels.size(); i++) {
            double y = y(MARKS_DBFS[i / 2]);
            boolean upper = i % 2 == 0;
            double top = Math.max(0, y - LABEL_HEIGHT / 2);
            if (upper) {
                // Where there is no room for all, the next one stays away, in both halves.
                boolean room = top >= below && y + LABEL_HEIGHT < getHeight() / 2;
                labels.get(i).setVisible(room);
                labels.get(i + 1).setVisible(room);
                below = room ? top + LABEL_HEIGHT : below;
            }
            labels.get(i)
                    .resizeRelocate(
                            3,
                            upper ? top : getHeight() - top - LABEL_HEIGHT,
                            labels.get(i).prefWidth(-1),
                            LABEL_HEIGHT);
        }
        target.place();
        guard.place();
    }
}
