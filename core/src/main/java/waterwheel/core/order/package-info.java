/**
 * A running order as settings: its songs, the parts that they have in common, what levels these are to have, and what
 * each is corrected by. Immutable; nothing here reads a file.
 *
 * <p><b>Song</b>: a session, a folder of audio files that are heard together, or one such file. <b>Part</b>: what the
 * stems of one name have in common across songs, such as the drums. <b>Cue part</b>: clicks and cues, which are in no
 * sum and have no target.
 */
@NullMarked
package waterwheel.core.order;

import org.jspecify.annotations.NullMarked;
