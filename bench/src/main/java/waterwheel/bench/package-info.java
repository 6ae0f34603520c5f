/** Speed and memory, measured; never part of a test. */
@NullMarked
package waterwheel.bench;

import org.jspecify.annotations.NullMarked;
