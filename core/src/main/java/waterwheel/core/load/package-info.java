/** What each channel and slot takes of a block's time, and what a freeze would save of it. */
@NullMarked
package waterwheel.core.load;

import org.jspecify.annotations.NullMarked;
