/** Laying another session's flow over the one that is open: what would change, seen before it is taken. */
@NullMarked
package waterwheel.desktop.alike;

import org.jspecify.annotations.NullMarked;
