package waterwheel.core.rack;

/**
 * What came back of one stem's share of what a loop on a bus sends.
 *
 * @param stem the id of the channel whose stem it is
 */
public record StemCapture(String stem, Capture capture) {}
