/**
 * Audio in and out of the computer: one port in the sense of the engine, with any number of inputs and outputs, and its
 * drivers. A port is the clock of what runs on it. One thread at a time.
 */
@NullMarked
package waterwheel.core.ports;

import org.jspecify.annotations.NullMarked;
