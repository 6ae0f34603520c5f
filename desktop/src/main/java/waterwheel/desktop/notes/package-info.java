/** The notes that an instrument plays, and its sound. */
@NullMarked
package waterwheel.desktop.notes;

import org.jspecify.annotations.NullMarked;
