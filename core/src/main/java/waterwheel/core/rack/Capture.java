package waterwheel.core.rack;

import waterwheel.core.sources.SourceId;

/**
 * What came back from a loop, recorded while the song ran through it, from the moment on at which the song's first frame
 * was sent.
 *
 * @param source the recording, one of the session's files
 * @param madeOf what was sent: a name for the samples, the ports and the rate
 * @param sentAverageDbfs how loud that was
 * @param sentPeakDbfs likewise
 */
public record Capture(SourceId source, String madeOf, double sentAverageDbfs, double sentPeakDbfs) {}
