/**
 * The session folder: {@code session.json}, {@code audio/}, {@code renders/} and {@code earlier/} with earlier saves.
 * Saving is atomic: whenever the process is killed, {@code session.json} is either the earlier or the new one, whole.
 */
@NullMarked
package waterwheel.core.store;

import org.jspecify.annotations.NullMarked;
