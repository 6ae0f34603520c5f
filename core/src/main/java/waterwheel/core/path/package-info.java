/**
 * A channel's way from its source to its destinations, in signal order, with the gain of each stage: the one description
 * that whoever needs to know the way reads. Gains are linear.
 */
@NullMarked
package waterwheel.core.path;

import org.jspecify.annotations.NullMarked;
