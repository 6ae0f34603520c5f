/**
 * The session: an immutable value that says everything about a mix except the samples themselves. Records that are
 * complete at construction; every change is a {@code withX} that returns a new value. References between channels are
 * ids. Times on the song's line are frames at the session's sample rate; levels are dB.
 */
@NullMarked
package waterwheel.core.session;

import org.jspecify.annotations.NullMarked;
