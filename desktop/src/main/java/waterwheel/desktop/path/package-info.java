/** The Path: the selected channel as a staircase of stages, each with its control and its level. */
@NullMarked
package waterwheel.desktop.path;

import org.jspecify.annotations.NullMarked;
