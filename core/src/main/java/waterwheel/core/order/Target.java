package waterwheel.core.order;

import waterwheel.core.units.Ranges;

/**
 * What levels the songs are to have.
 *
 * @param goal what is to be equally loud
 * @param lufs integrated loudness (ITU-R BS.1770), -70 to 0 LUFS; parts may have their own
 * @param toleranceLu how far from it is as good as there, 0.1 to 12 LU
 * @param guardDbtp the true peak that nothing is brought above, -40 to 0 dBTP
 */
public record Target(Goal goal, double lufs, double toleranceLu, double guardDbtp) {
    /** Each part at -20 LUFS, within 1 LU, no true peak above -1 dBTP. */
    public static final Target USUAL = new Target(Goal.PARTS, -20, 1, -1);

    public static final double LEAST_LUFS = -70;
    public static final double MOST_TOLERANCE_LU = 12;
    public static final double LEAST_TOLERANCE_LU = 0.1;
    public static final double LEAST_GUARD_DBTP = -40;

    /** What is to be equally loud from song to song. */
    public enum Goal {
        PARTS("parts", "Each part"),
        SUM("sum", "The sum");

        private final String label;
        private final String text;

        Goal(String label, String text) {
            this.label = label;
            this.text = text;
        }

        /** The word in files and on the command line. */
        public String label() {
            return label;
        }

        /** The words on screen. */
        public String text() {
            return text;
        }
    }

    /** How near to its target something is. */
    public enum Nearness {
        /** Within the tolerance. */
        WITHIN("within"),
        /** Within twice the tolerance. */
        NEAR("near"),
        OFF("off");

        private final String label;

        Nearness(String label) {
            this.label = label;
        }

        public String label() {
            return label;
        }
    }

    public Target {
        lufs = checkedLufs(lufs);
        toleranceLu = Ranges.checked("toleranceLu", toleranceLu, LEAST_TOLERANCE_LU, MOST_TOLERANCE_LU);
        guardDbtp = Ranges.checked("guardDbtp", guardDbtp, LEAST_GUARD_DBTP, 0);
    }

    static double checkedLufs(double lufs) {
        return Ranges.checked("lufs", lufs, LEAST_LUFS, 0);
    }

    /** Judges a distance from the target, in LU of either sign; silence is off. */
    public Nearness nearness(double distanceLu) {
        double far = Math.abs(distanceLu);
        if (far <= toleranceLu) {
            return Nearness.WITHIN;
        }
        return far <= 2 * toleranceLu ? Nearness.NEAR : Nearness.OFF;
    }

    public Target withGoal(Goal value) {
        return new Target(value, lufs, toleranceLu, guardDbtp);
    }

    public Target withLufs(double value) {
        return new Target(goal, value, toleranceLu, guardDbtp);
    }

    public Target withToleranceLu(double value) {
        return new Target(goal, lufs, value, guardDbtp);
    }

    public Target withGuardDbtp(double value) {
        return new Target(goal, lufs, toleranceLu, value);
    }
}
