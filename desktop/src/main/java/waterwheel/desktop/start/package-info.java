/** The screen without a session: recent ones, new from files, the demo. */
@NullMarked
package waterwheel.desktop.start;

import org.jspecify.annotations.NullMarked;
