package waterwheel.core.session;

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
        double[] flat = new double[2 * planes];
        gains(law, planes, mode, position, width, flat);
        return planes == 1
                ? new double[][] {{flat[0]}, {flat[1]}}
                : new double[][] {{flat[0], flat[1]}, {flat[2], flat[3]}};
    }

    /**
     * Fills in the linear gains of a placement that may move: to the left from each plane, then to the right; allocates
     * nothing.
     *
     * @param planes 1 for mono, 2 for stereo
     * @param gains of 2 x {@code planes}
     */
    public static void gains(PanLaw law, int planes, Mode mode, double position, double width, double[] gains) {
        switch (planes) {
            case 1 -> {
                gains[0] = law.left(position);
                gains[1] = law.right(position);
            }
            case 2 -> stereoGains(law, mode, position, width, gains);
            default -> throw new IllegalArgumentException("planes: " + planes + " (expected: 1 or 2)");
        }
    }

    private static void stereoGains(PanLaw law, Mode mode, double position, double width, double[] gains) {
        switch (mode) {
            case PLACE -> {
                double w = Math.min(width, 1);
                double leftPosition = Math.max(position - w, -1);
                double rightPosition = Math.min(position + w, 1);
                gains[0] = law.left(leftPosition);
                gains[1] = law.left(rightPosition);
                gains[2] = law.right(leftPosition);
                gains[3] = law.right(rightPosition);
            }
            case BALANCE -> {
                gains[0] = PanLaw.ZERO.left(position);
                gains[1] = 0;
                gains[2] = 0;
                gains[3] = PanLaw.ZERO.right(position);
            }
        }
        if (width > 1) {
            widen(width, gains);
        }
    }

    /** Multiplies by the matrix that scales the side signal: L' = M + w S, R' = M - w S. */
    private static void widen(double width, double[] gains) {
        double same = (1 + width) / 2;
        double cross = (1 - width) / 2;
        for (int side = 0; side < 4; side += 2) {
            double left = gains[side];
            double right = gains[side + 1];
            gains[side] = left * same + right * cross;
            gains[side + 1] = left * cross + right * same;
        }
    }
}
