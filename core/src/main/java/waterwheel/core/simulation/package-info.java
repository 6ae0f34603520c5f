/**
 * An audio interface with units plugged into it, for rooms that have none: eight inputs and outputs whose converters clip
 * and take their time, cables as the session's rack tells, and units of our own invention, described by data. Levels
 * between the sockets are in dBu: a sine of 0 dBu has a peak of 1. The same signals give the same samples every time.
 */
@NullMarked
package waterwheel.core.simulation;

import org.jspecify.annotations.NullMarked;
