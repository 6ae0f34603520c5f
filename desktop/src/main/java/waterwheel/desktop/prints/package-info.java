/** Printing channels to tracks that stand in for them, and what is parked for it. */
@NullMarked
package waterwheel.desktop.prints;

import org.jspecify.annotations.NullMarked;
