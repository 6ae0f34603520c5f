package waterwheel.core.controllers;

/**
 * A part that was moved.
 *
 * @param place where it stands on its travel, 0 to 1; a button 1 while it is down
 * @param velocity how hard a button or key was pressed, 1 to 127; 0 where nothing tells
 */
public record ControllerMove(ControllerPart part, double place, int velocity) {
    public ControllerMove(ControllerPart part, double place) {
        this(part, place, 0);
    }
}
