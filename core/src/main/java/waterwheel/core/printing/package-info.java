/** Printing channels: rendering them to new tracks that stand in for them. */
@NullMarked
package waterwheel.core.printing;

import org.jspecify.annotations.NullMarked;
