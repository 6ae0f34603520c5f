package waterwheel.desktop.controls;

import javafx.css.PseudoClass;
import javafx.scene.AccessibleRole;
import javafx.scene.layout.Region;
import waterwheel.core.metering.Figures;
import waterwheel.core.units.Decibels;
import waterwheel.core.units.LevelText;

/**
 * A level over the whole song, drawn on the common scale: fill to the average, a band where the 3 s level moves, ticks
 * for peak and noise floor, marks for full scale and nominal; and, while the song plays, a thin line for the level now.
 * Style classes say what each part is; pseudo-classes {@code pending} and {@code over} say the state.
 */
public final class LevelBar extends Region {
    private static final PseudoClass PENDING = PseudoClass.getPseudoClass("pending");
    private static final PseudoClass OVER = PseudoClass.getPseudoClass("over");
    /** How fast the line of the level now falls back, in dB a second (IEC 60268-18 asks for 20 dB in 1.7 s). */
    private static final double FALL_DB_PER_SECOND = 11.8;

    private final Region overZone = part("over-zone");
    private final Region target = part("target-zone");
    private final Region fill = part("fill");
    private final Region band = part("band");
    private final Region zero = part("full-scale");
    private final Region nominal = part("nominal");
    private final Region noise = part("noise");
    private final Region average = part("average");
    private final Region peak = part("peak");
    private final Region live = part("live");
    private final Region ghost = part("ghost");
    private final Region ghostPeak = part("ghost-peak");
    private double nominalDb;
    private Figures figures = SILENCE;
    private double targetFrom = Double.NaN;
    private double targetTo = Double.NaN;
    private double ghostDb = Double.NaN;
    private double ghostPeakDb = Double.NaN;
    private double liveDb = Double.NEGATIVE_INFINITY;

    private static final Figures SILENCE = silence();

    /** @param nominalDbfs where the copper mark stands */
    public LevelBar(double nominalDbfs) {
        nominalDb = nominalDbfs;
        getStyleClass().add("level-bar");
        setAccessibleRole(AccessibleRole.TEXT);
        getChildren().addAll(target, overZone, fill, band, zero, nominal, noise, average, peak, live, ghost, ghostPeak);
        ghost.setVisible(false);
        ghostPeak.setVisible(false);
        live.setVisible(false);
        target.setVisible(false);
    }

    private static Figures silence() {
        double none = Double.NEGATIVE_INFINITY;
        return new Figures(none, Double.NaN, none, none, none, none, none, none, none, none, none, 0, Double.NaN);
    }

    private static Region part(String styleClass) {
        Region region = new Region();
        region.getStyleClass().add(styleClass);
        region.setMouseTransparent(true);
        return region;
    }

    /** Moves the copper mark, in dBFS. */
    public void setNominal(double dbfs) {
        if (dbfs != nominalDb) {
            nominalDb = dbfs;
            requestLayout();
        }
    }

    /** Shows figures that are true of the session now. */
    public void show(Figures value) {
        figures = value;
        pseudoClassStateChanged(PENDING, false);
        pseudoClassStateChanged(OVER, value.samplePeakDbfs() > 0);
        setAccessibleText("Peak " + LevelText.level(value.samplePeakDbfs(), "dBFS") + ", average "
                + LevelText.level(value.averageDbfs(), "dBFS"));
        requestLayout();
    }

    /** Shows a level as it is now, and the highest sample held, in dBFS. */
    public void showNow(double averageDbfs, double peakDbfs) {
        if (averageDbfs == figures.averageDbfs() && peakDbfs == figures.samplePeakDbfs()) {
            return;
        }
        double none = Double.NEGATIVE_INFINITY;
        show(new Figures(
                peakDbfs,
                Double.NaN,
                Double.NaN,
                averageDbfs,
                averageDbfs,
                none,
                none,
                none,
                none,
                none,
                none,
                0,
                Double.NaN));
    }

    /** Says that what is drawn may no longer be true. */
    public void showPending() {
        pseudoClassStateChanged(PENDING, true);
        setAccessibleText("Being measured");
    }

    /** Forgets all levels, before those of something else are shown. */
    public void forget() {
        figures = SILENCE;
        liveDb = Double.NEGATIVE_INFINITY;
        live.setVisible(false);
        requestLayout();
    }

    /** Draws a zone in which the level should lie, in dB; NaN for none. */
    public void setTarget(double fromDb, double toDb) {
        targetFrom = fromDb;
        targetTo = toDb;
        target.setVisible(!Double.isNaN(fromDb));
        requestLayout();
    }

    /** Draws what the average and the peak would be after a proposal, in dBFS; NaN for none. */
    public void showGhost(double averageDbfs, double peakDbfs) {
        ghostDb = averageDbfs;
        ghostPeakDb = peakDbfs;
        ghost.setVisible(!Double.isNaN(averageDbfs));
        ghostPeak.setVisible(!Double.isNaN(peakDbfs));
        requestLayout();
    }

    /**
     * Shows the level now.
     *
     * @param peakLinear loudest sample since the last call, linear
     * @param seconds since then
     */
    public void showLive(double peakLinear, double seconds) {
        double now = Decibels.ofFactor(peakLinear);
        liveDb = Math.max(now, liveDb - FALL_DB_PER_SECOND * seconds);
        boolean shown = liveDb > LevelScale.LOWEST_DB;
        live.setVisible(shown);
        if (shown) {
            live.resize(LevelScale.x(liveDb, getWidth()), Math.max(2, getHeight() * 0.16));
        }
    }

    @Override
    protected double computePrefHeight(double width) {
        return 16;
    }

    @Override
    protected double computePrefWidth(double height) {
        return 200;
    }

    @Override
    protected void layoutChildren() {
        double width = getWidth();
        double height = getHeight();
        place(overZone, 0, LevelScale.HIGHEST_DB, 0, height);
        if (target.isVisible()) {
            place(target, targetFrom, targetTo, 0, height);
        }
        tick(zero, 0, 1, 0, height);
        tick(nominal, nominalDb, 1, 0, height);
        boolean sounding = !figures.silent();
        for (Region part : new Region[] {fill, average, peak}) {
            part.setVisible(sounding);
        }
        place(fill, LevelScale.LOWEST_DB, figures.averageDbfs(), height * 0.3, height * 0.4);
        boolean moves = Double.isFinite(figures.shortTermLowDbfs());
        band.setVisible(sounding && moves);
        if (moves) {
            place(band, figures.shortTermLowDbfs(), figures.shortTermHighDbfs(), height * 0.3, height * 0.4);
        }
        noise.setVisible(sounding && figures.noiseFloorDbfs() > LevelScale.LOWEST_DB);
        tick(noise, figures.noiseFloorDbfs(), 3, height * 0.62, height * 0.38);
        tick(average, figures.averageDbfs(), 3, height * 0.12, height * 0.76);
        tick(peak, figures.samplePeakDbfs(), 2, 0, height);
        if (ghost.isVisible()) {
            place(ghost, LevelScale.LOWEST_DB, ghostDb, height * 0.14, height * 0.72);
            tick(ghostPeak, ghostPeakDb, 5, 0, height);
        }
        live.setLayoutY(height - Math.max(2, height * 0.16));
        live.resize(Math.min(live.getWidth(), width), Math.max(2, height * 0.16));
    }

    private void place(Region part, double fromDb, double toDb, double y, double height) {
        double from = LevelScale.x(fromDb, getWidth());
        double to = LevelScale.x(toDb, getWidth());
        part.resizeRelocate(from, y, Math.max(0, to - from), height);
    }

    private void tick(Region part, double db, double thickness, double y, double height) {
        double x = LevelScale.x(db, getWidth());
        part.resizeRelocate(
                Math.clamp(x - thickness / 2, 0, Math.max(0, getWidth() - thickness)), y, thickness, height);
    }
}
