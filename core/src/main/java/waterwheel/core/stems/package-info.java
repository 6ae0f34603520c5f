/**
 * Rendering: stems and mix through the one engine, at one stated gain, with a proof read back from the files. What each
 * stem will measure is known before, since everything is measured.
 */
@NullMarked
package waterwheel.core.stems;

import org.jspecify.annotations.NullMarked;
