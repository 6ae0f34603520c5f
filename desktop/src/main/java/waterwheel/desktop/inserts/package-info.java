/** Panels of the processors that are inserted into channels. */
@NullMarked
package waterwheel.desktop.inserts;

import org.jspecify.annotations.NullMarked;
