package waterwheel.core.levels;

import waterwheel.core.metering.Figures;
import waterwheel.core.path.Stage;

/**
 * The whole song's figures at one stage.
 *
 * @param part which of several: an insert's slot; empty for the stages that there is one of
 */
public record StageLevel(Stage stage, String part, Figures figures) {
    public StageLevel(Stage stage, Figures figures) {
        this(stage, "", figures);
    }
}
