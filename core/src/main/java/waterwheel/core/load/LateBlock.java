package waterwheel.core.load;

/**
 * A block that took longer than it lasts.
 *
 * @param frame where in the song it begins
 * @param share what it took, of its time
 * @param atWork what was at work when its time ran out
 */
public record LateBlock(long frame, double share, Part atWork) {}
