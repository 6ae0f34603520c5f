/** Controls that several views share: level bars, the dB scale, typed values, faders. */
@NullMarked
package waterwheel.desktop.controls;

import org.jspecify.annotations.NullMarked;
