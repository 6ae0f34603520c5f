/**
 * Playing the song: a thread that runs the plan block by block into an audio port. Changes are
 * crossfaded, starts and stops faded. Where a machine has no sound device, a silent clock takes its place.
 *
 * <p>{@link waterwheel.core.playback.Player} may be called by any thread; the block loop allocates and locks nothing.
 */
@NullMarked
package waterwheel.core.playback;

import org.jspecify.annotations.NullMarked;
