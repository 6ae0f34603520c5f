package waterwheel.core.session;

import waterwheel.core.controllers.ControllerPart;

/** A part of a controller and what it moves. */
public record Assignment(ControllerPart part, ControlId control) {}
