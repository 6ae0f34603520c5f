/** Changes to a session as named pure functions, and the list of earlier sessions that undo is. */
@NullMarked
package waterwheel.core.edit;

import org.jspecify.annotations.NullMarked;
