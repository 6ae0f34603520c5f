/** Meters of the selected channels while the song plays. */
@NullMarked
package waterwheel.desktop.meters;

import org.jspecify.annotations.NullMarked;
