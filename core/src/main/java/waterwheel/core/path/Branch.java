package waterwheel.core.path;

import waterwheel.core.session.Send;

/**
 * A send that is on.
 *
 * @param number its place among the channel's sends
 * @param from the stage behind which it leaves the channel: {@link Stage#FADER}, or {@link Stage#TRIM} for behind the
 *     last insert
 * @param level its level
 * @param placement from the channel's planes to left and right
 * @param open 1, or 0 while nothing may leave
 */
public record Branch(int number, Send send, Stage from, double level, GainMatrix placement, double open) {}
