/**
 * What comes in by the interface, recorded while the song runs: a file that is safe as it grows, and the clip that it
 * becomes.
 */
@NullMarked
package waterwheel.core.recording;

import org.jspecify.annotations.NullMarked;
