/** The fixed parts of the window: step rail, song strip, findings, messages, menus. */
@NullMarked
package waterwheel.desktop.frame;

import org.jspecify.annotations.NullMarked;
