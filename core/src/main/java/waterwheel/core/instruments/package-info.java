/** What notes are played by: a sample player, and a synthesised instrument. */
@NullMarked
package waterwheel.core.instruments;

import org.jspecify.annotations.NullMarked;
