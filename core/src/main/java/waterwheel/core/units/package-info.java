/**
 * Decibels and linear factors, the text of a level, and the travel of a fader. Amplitude decibels throughout: dB = 20
 * log10(ratio). Silence is negative infinity and is written as such. All classes are stateless.
 */
@NullMarked
package waterwheel.core.units;

import org.jspecify.annotations.NullMarked;
