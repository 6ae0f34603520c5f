/** The panel of controllers: what is connected, what moves what, learning, and the simulated controller. */
@NullMarked
package waterwheel.desktop.controllers;

import org.jspecify.annotations.NullMarked;
