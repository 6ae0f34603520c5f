/** Freezing channels: rendering their sound up to some slot once, and knowing whether that is still what it would be. */
@NullMarked
package waterwheel.core.freezing;

import org.jspecify.annotations.NullMarked;
