/**
 * A running order on the screen: songs against the target, what corrects the selected part of the selected song, listening
 * and delivering. Works with or without an open session.
 */
@NullMarked
package waterwheel.desktop.order;

import org.jspecify.annotations.NullMarked;
