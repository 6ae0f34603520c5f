package waterwheel.core.path;

import waterwheel.core.inserts.Insert;

/** One stage of a channel's way. */
public sealed interface Step {
    /** Where its level is told. */
    Stage stage();

    /** A gain, from the planes before it to those behind it. */
    record Level(Stage stage, GainMatrix gain) implements Step {}

    /** An insert that is not bypassed. */
    record Slot(Insert insert) implements Step {
        @Override
        public Stage stage() {
            return Stage.INSERT;
        }
    }
}
