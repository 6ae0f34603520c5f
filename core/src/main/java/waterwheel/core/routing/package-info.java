/**
 * What reaches what: the order in which channels are computed, loops, and what sounds under mute and solo. Small
 * algorithms over a read-only session; ties keep the session's order.
 */
@NullMarked
package waterwheel.core.routing;

import org.jspecify.annotations.NullMarked;
