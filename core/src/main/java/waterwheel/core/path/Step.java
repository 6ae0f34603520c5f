package waterwheel.core.path;

import waterwheel.core.inserts.Insert;

/** One stage of a channel's way. */
public sealed interface Step {
    /** Where its level is told. */
    Stage stage();

    /** A gain, from the planes before it to those behind it. */
    sealed interface Gain extends Step {}

    /** A gain that stands still. */
    record Level(Stage stage, GainMatrix gain) implements Gain {}

    /** A gain that moves in time. */
    record Moving(Stage stage, Motion motion) implements Gain {}

    /** An insert that the signal runs through. */
    record Slot(Insert insert) implements Step {
        @Override
        public Stage stage() {
            return Stage.INSERT;
        }
    }
}
