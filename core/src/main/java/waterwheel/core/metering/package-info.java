/**
 * Meters. Everything that can be known of a signal's level is gathered once into a {@link
 * waterwheel.core.metering.LevelSeries}: peaks, energies and K-weighted energies of consecutive 10 ms steps. All
 * figures (average, loudness, range, noise floor) are computed from those, also under a gain that was not there when
 * the signal was measured, because peaks scale with a gain and energies with its square.
 *
 * <p>Sources: ITU-R BS.1770-5 (loudness, true peak), EBU Tech 3341 (momentary, short-term, integrated), EBU Tech 3342
 * (loudness range), AES17 (RMS of a full-scale sine reads 0 dBFS), IEC 60268-17 (VU). Meters belong to one thread at a
 * time; series and figures are immutable.
 */
@NullMarked
package waterwheel.core.metering;

import org.jspecify.annotations.NullMarked;
