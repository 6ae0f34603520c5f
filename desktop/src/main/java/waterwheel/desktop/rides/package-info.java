/** The song's time with the selected channel's curves: what moves, what it comes to, and what it does to the level. */
@NullMarked
package waterwheel.desktop.rides;

import org.jspecify.annotations.NullMarked;
