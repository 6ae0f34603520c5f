package waterwheel.core.outboard;

/**
 * A way that is to be timed.
 *
 * @param sendPort the output, from 1
 * @param returnPort the input, from 1
 */
public record LoopAsk(int sendPort, int returnPort) {}
