/**
 * Taking audio files in: copying or linking what the engine plays directly, converting what it does not, and proposing
 * names, kinds and stereo pairs. Proposals are for the engineer to accept or change; originals are never altered.
 */
@NullMarked
package waterwheel.core.intake;

import org.jspecify.annotations.NullMarked;
