package waterwheel.core.filefacts;

/**
 * A place where the wave was cut off.
 *
 * @param firstFrame where it begins in the file
 * @param frames how many equal samples there are
 */
public record FlattenedRun(long firstFrame, long frames) {}
