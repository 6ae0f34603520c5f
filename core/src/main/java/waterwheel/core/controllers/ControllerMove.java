package waterwheel.core.controllers;

/**
 * A part that was moved.
 *
 * @param place where it stands on its travel, 0 to 1; a button 1 while it is down
 */
public record ControllerMove(ControllerPart part, double place) {}
