package waterwheel.core.session;

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
        return switch (planes) {
            case 1 -> new double[][] {{law.left(position)}, {law.right(position)}};
            case 2 -> stereoGains(law);
            default -> throw new IllegalArgumentException("planes: " + planes + " (expected: 1 or 2)");
        };
    }

    private double[][] stereoGains(PanLaw law) {
        double[][] placed =
                switch (mode) {
                    case PLACE -> {
                        double w = Math.min(width, 1);
                        double leftPosition = Math.max(position - w, -1);
                        double rightPosition = Math.min(position + w, 1);
                        yield new double[][] {
                            {law.left(leftPosition), law.left(rightPosition)},
                            {law.right(leftPosition), law.right(rightPosition)}
                        };
                    }
                    case BALANCE -> new double[][] {{PanLaw.ZERO.left(position), 0}, {0, PanLaw.ZERO.right(position)}};
                };
        return width <= 1 ? placed : widened(placed);
    }

    /** Multiplies by the matrix that scales the side signal: L' = M + w S, R' = M - w S. */
    private double[][] widened(double[][] placed) {
        double same = (1 + width) / 2;
        double cross = (1 - width) / 2;
        double[][] out = new double[2][2];
        for (int side = 0; side < 2; side++) {
            out[side][0] = placed[side][0] * same + placed[side][1] * cross;
            out[side][1] = placed[side][0] * cross + placed[side][1] * same;
        }
        return out;
    }
}
