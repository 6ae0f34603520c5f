package waterwheel.core.stems;

import java.util.ArrayList;
import java.util.Arrays;
import java.util.List;
import java.util.Locale;
import waterwheel.core.metering.LevelSeries;
import waterwheel.core.units.Decibels;

/**
 * A level over the time of a file, to be drawn.
 *
 * @param dbfs the sample peak of each of {@link #SLICES} equal stretches of the file; negative infinity for silence
 */
public record LevelTrace(List<Double> dbfs) {
    /** How many stretches a file is drawn in. */
    public static final int SLICES = 240;

    public LevelTrace {
        dbfs = List.copyOf(dbfs);
    }

    static LevelTrace of(LevelSeries series) {
        double[] peaks = new double[SLICES];
        for (int step = 0; step < series.steps(); step++) {
            int slice = (int) ((long) step * SLICES / series.steps());
            for (int p = 0; p < series.planes(); p++) {
                peaks[slice] = Math.max(peaks[slice], series.peak(p, step));
            }
        }
        return ofPeaks(peaks);
    }

    /** @param peaks linear, one a slice */
    static LevelTrace ofPeaks(double[] peaks) {
        return new LevelTrace(Arrays.stream(peaks).mapToObj(Decibels::ofFactor).toList());
    }

    /**
     * The area under it as the data of an SVG path, one unit a slice wide.
     *
     * @param floorDb what lies at the bottom and below
     * @param topDb what lies at the top and above
     * @param height in units
     */
    String path(double floorDb, double topDb, int height) {
        List<String> points = new ArrayList<>();
        for (int i = 0; i < dbfs.size(); i++) {
            double part = Math.clamp((dbfs.get(i) - floorDb) / (topDb - floorDb), 0, 1);
            points.add(String.format(Locale.ROOT, "L%d %.1fh1", i, height * (1 - part)));
        }
        return "M0 " + height + String.join("", points) + "V" + height + "Z";
    }
}
