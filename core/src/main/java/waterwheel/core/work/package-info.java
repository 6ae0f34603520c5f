/** Long work: how far it is, whether it should stop, and files that are only seen when they are whole. */
@NullMarked
package waterwheel.core.work;

import org.jspecify.annotations.NullMarked;
