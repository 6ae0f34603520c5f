package waterwheel.core.processing;

import waterwheel.core.inserts.Processor;
import waterwheel.core.units.Decibels;

/** What a stereo tool does to the two sides, for its effect and for drawing. */
public final class StereoTool {
    private StereoTool() {}

    /**
     * The linear gains {@code [to][from]} between left (0) and right (1): middle and side by gains of their own, where
     * middle is half the sum and side half the difference, then polarity.
     */
    public static double[][] gains(Processor tool) {
        double middle = Decibels.toFactor(tool.value("middleDb"));
        double side = Decibels.toFactor(tool.value("sideDb"));
        double same = (middle + side) / 2;
        double cross = (middle - side) / 2;
        int polarity = tool.choice("polarity");
        double left = (polarity & 1) == 1 ? -1 : 1;
        double right = (polarity & 2) == 2 ? -1 : 1;
        return new double[][] {{left * same, left * cross}, {right * cross, right * same}};
    }
}
