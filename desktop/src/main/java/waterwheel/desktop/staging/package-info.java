/** The step Staging: every channel on one ruler, trimmed by dragging its row. */
@NullMarked
package waterwheel.desktop.staging;

import org.jspecify.annotations.NullMarked;
