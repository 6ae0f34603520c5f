/**
 * Hardware with faders, knobs and buttons that sends MIDI 1.0: what its messages say, which of its parts sent them, and
 * when a part takes a control up. Places run from 0 to 1 over a part's travel.
 */
@NullMarked
package waterwheel.core.controllers;

import org.jspecify.annotations.NullMarked;
