/** Hardware: the ports of the interface, the units between them, and the loops that lead through them. */
@NullMarked
package waterwheel.desktop.outboard;

import org.jspecify.annotations.NullMarked;
