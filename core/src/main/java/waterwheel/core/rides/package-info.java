/**
 * Values that move in time: curves of points, and rides, which are the curves of controls with what lies on top of them.
 * Frames count on the song's line, values are in the control's own unit.
 */
@NullMarked
package waterwheel.core.rides;

import org.jspecify.annotations.NullMarked;
