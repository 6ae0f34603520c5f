/**
 * The hardware around a session, as settings: units in the rack, what level they expect and where their knobs stand; the
 * ports of the audio interface with their names and calibration; and the loops by which slots leave the computer and come
 * back, with what was found out and recorded of them. Immutable. Ports are counted from 1, levels at cables are in dBu.
 */
@NullMarked
package waterwheel.core.rack;

import org.jspecify.annotations.NullMarked;
