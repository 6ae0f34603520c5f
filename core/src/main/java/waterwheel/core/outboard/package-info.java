/**
 * Finding out what lies between an output and an input of the interface: how late, how loud and with which polarity a
 * signal comes back, with what noise and hum. Levels are dBFS, times frames at the interface's rate.
 */
@NullMarked
package waterwheel.core.outboard;

import org.jspecify.annotations.NullMarked;
