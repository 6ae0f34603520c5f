/** Long work: how far it is, and whether it should stop. */
@NullMarked
package waterwheel.core.work;

import org.jspecify.annotations.NullMarked;
