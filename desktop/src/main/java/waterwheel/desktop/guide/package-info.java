/**
 * The guide of {@code docs/guide.md} as it is read in the window, with all keys. The file is the one source: what it says
 * of a task is also what the tests do.
 */
@NullMarked
package waterwheel.desktop.guide;

import org.jspecify.annotations.NullMarked;
