/**
 * What an audio file is: its levels as it lies on the disk, and what happened to it before it came. Flattened samples
 * are loss that no gain undoes; overs of a float file are none.
 */
@NullMarked
package waterwheel.core.filefacts;

import org.jspecify.annotations.NullMarked;
