/**
 * The whole song's level at every stage of every channel, kept true. Every signal's measurement is known by a hash of
 * all that it is made of, so that a moved fader measures only what lies below it; stages that are a mere gain on
 * another signal are computed from its measurement.
 *
 * <p>{@link waterwheel.core.levels.SongMeasure} belongs to one thread at a time; {@link
 * waterwheel.core.levels.LevelWatch} runs one in the background.
 */
@NullMarked
package waterwheel.core.levels;

import org.jspecify.annotations.NullMarked;
