/** Notes on the song's line, and the files that they come from. */
@NullMarked
package waterwheel.core.notes;

import org.jspecify.annotations.NullMarked;
