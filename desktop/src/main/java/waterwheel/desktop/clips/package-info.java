/** The clips of the selected track: waveform at any zoom, gains, fades, gain curves, calm. */
@NullMarked
package waterwheel.desktop.clips;

import org.jspecify.annotations.NullMarked;
