/**
 * The demo session: a made-up folk-dance band in an old mill plays a made-up reel. Everything is synthesised here, from
 * arithmetic that gives the same bits on every machine: only basic operations, {@code StrictMath} and a generator of
 * its own.
 *
 * <p>{@link waterwheel.core.demo.Tune} is what is played, the synths are the instruments, {@link
 * waterwheel.core.demo.Band} has each player play, and {@link waterwheel.core.demo.DemoSession} writes files and
 * session, with the faults that people meet in real ones.
 */
@NullMarked
package waterwheel.core.demo;

import org.jspecify.annotations.NullMarked;
