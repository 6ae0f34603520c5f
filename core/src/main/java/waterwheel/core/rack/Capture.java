package waterwheel.core.rack;

import waterwheel.core.sources.SourceId;

/**
 * What came back from a loop, recorded while the song ran through it.
 *
 * @param source the recording, one of the session's files
 * @param lagFrames how long after the song's beginning was sent the recording begins
 * @param madeOf what was sent: a name for the samples, the ports and the rate
 * @param sentAverageDbfs how loud that was
 * @param sentPeakDbfs likewise
 */
public record Capture(SourceId source, long lagFrames, String madeOf, double sentAverageDbfs, double sentPeakDbfs) {}
