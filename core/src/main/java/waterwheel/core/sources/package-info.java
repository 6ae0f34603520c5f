/** The audio files that a session uses, as it knows them: what they are called, where they lie, what was lost in them. */
@NullMarked
package waterwheel.core.sources;

import org.jspecify.annotations.NullMarked;
