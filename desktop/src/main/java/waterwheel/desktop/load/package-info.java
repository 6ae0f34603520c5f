/** What every channel and slot takes of a block's time. */
@NullMarked
package waterwheel.desktop.load;

import org.jspecify.annotations.NullMarked;
