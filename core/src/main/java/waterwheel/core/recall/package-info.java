/** The recall sheet: what stood where in the rack, to be set again another day. */
@NullMarked
package waterwheel.core.recall;

import org.jspecify.annotations.NullMarked;
