/**
 * Processors at work: what inserts do to samples. Each is made from its settings for one rate and number of planes,
 * works in place block by block, remembers what it must, and says by how many samples it is late.
 */
@NullMarked
package waterwheel.core.processing;

import org.jspecify.annotations.NullMarked;
