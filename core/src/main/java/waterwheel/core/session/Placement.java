package waterwheel.core.session;

import java.util.Arrays;
import waterwheel.core.rides.Control;
import waterwheel.core.rides.Scale;
import waterwheel.core.units.Ranges;

/**
 * Where a channel sits between left and right.
 *
 * <p>A mono channel is panned to its position by the session's law. A stereo channel in mode {@link Mode#PLACE} is two
 * mono sources at {@code clamp(p - w)} and {@code clamp(p + w)}, each panned by the law, so that nothing is lost; at
 * p = 0, w = 1 it passes unchanged. A width over 1 multiplies the side signal (L - R)/2 by the width first and then
 * places with w = 1. In mode {@link Mode#BALANCE} the far side is turned down by {@code cos(|p| π/2)} and its content
 * is lost; width then does nothing up to 1 and widens above.
 *
 * @param position from -1 (left) to +1 (right)
 * @param width from 0 (both sides in one place) over 1 (as recorded) to 2
 */
public record Placement(double position, double width, Mode mode) {
    public static final Control POSITION = new Control("position", "Position", "", -1, 1, Scale.PLAIN);
    public static final Control WIDTH = new Control("width", "Width", "", 0, 2, Scale.PLAIN);
    public static final Placement CENTRE = new Placement(0, 1, Mode.PLACE);

    /** What a stereo channel does with its far side. */
    public enum Mode {
        PLACE,
        BALANCE
    }

    public Placement {
        position = Ranges.checked("position", position, -1, 1);
        width = Ranges.checked("width", width, 0, 2);
    }

    /** The position or the width, by its control's key. */
    public double value(String key) {
        return key.equals(POSITION.key()) ? position : width;
    }

    /** Returns the placement with the position or the width changed, by its control's key. */
    Placement with(String key, double value) {
        return key.equals(POSITION.key()) ? withPosition(POSITION.limited(value)) : withWidth(WIDTH.limited(value));
    }

    public Placement withPosition(double value) {
        return new Placement(value, width, mode);
    }

    public Placement withWidth(double value) {
        return new Placement(position, value, mode);
    }

    public Placement withMode(Mode value) {
        return new Placement(position, width, value);
    }

    /**
     * Returns the linear gains from the channel's planes to left and right: {@code gains[0][i]} from plane i to the
     * left, {@code gains[1][i]} to the right; a new array of 2 x {@code planes}.
     *
     * @param planes 1 for mono, 2 for stereo
     */
    public double[][] gains(PanLaw law, int planes) {
        double[][] flat = new double[2 * planes][1];
        gains(law, planes, mode, new double[] {position}, new double[] {width}, 1, flat);
        return planes == 1
                ? new double[][] {{flat[0][0]}, {flat[1][0]}}
                : new double[][] {{flat[0][0], flat[1][0]}, {flat[2][0], flat[3][0]}};
    }

    /**
     * Fills in the linear gains of a placement that may move: to the left from each plane, then to the right; allocates
     * nothing.
     *
     * @param planes 1 for mono, 2 for stereo
     * @param positions from -1 to 1
     * @param widths from 0 to 2
     * @param gains 2 x {@code planes} rows: {@code gains[gain][0 .. count)}
     */
    public static void gains(
            PanLaw law, int planes, Mode mode, double[] positions, double[] widths, int count, double[][] gains) {
        switch (planes) {
            case 1 -> {
                law.left(positions, count, gains[0]);
                law.right(positions, count, gains[1]);
            }
            case 2 -> {
                switch (mode) {
                    case PLACE -> place(law, positions, widths, count, gains);
                    case BALANCE -> balance(positions, count, gains);
                }
                widen(widths, count, gains);
            }
            default -> throw new IllegalArgumentException("planes: " + planes + " (expected: 1 or 2)");
        }
    }

    private static void place(PanLaw law, double[] positions, double[] widths, int count, double[][] gains) {
        // Where the two planes stand, in the rows of what they come to on the left.
        double[] first = gains[0];
        double[] second = gains[1];
        for (int i = 0; i < count; i++) {
            double w = Math.min(widths[i], 1);
            first[i] = Math.max(positions[i] - w, -1);
            second[i] = Math.min(positions[i] + w, 1);
        }
        law.right(first, count, gains[2]);
        law.right(second, count, gains[3]);
        law.left(first, count, first);
        law.left(second, count, second);
    }

    private static void balance(double[] positions, int count, double[][] gains) {
        PanLaw.ZERO.left(positions, count, gains[0]);
        Arrays.fill(gains[1], 0, count, 0);
        Arrays.fill(gains[2], 0, count, 0);
        PanLaw.ZERO.right(positions, count, gains[3]);
    }

    /** Multiplies by the matrix that scales the side signal: L' = M + w S, R' = M - w S, where w is over 1. */
    private static void widen(double[] widths, int count, double[][] gains) {
        for (int i = 0; i < count; i++) {
            if (widths[i] > 1) {
                double same = (1 + widths[i]) / 2;
                double cross = (1 - widths[i]) / 2;
                for (int side = 0; side < 4; side += 2) {
                    double left = gains[side][i];
                    double right = gains[side + 1][i];
                    gains[side][i] = left * same + right * cross;
                    gains[side + 1][i] = left * cross + right * same;
                }
            }
        }
    }
}
