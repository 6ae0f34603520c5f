package waterwheel.core.levels;

import waterwheel.core.metering.Figures;

/** The whole song's figures at one stage. */
public record StageLevel(Stage stage, Figures figures) {}
