/** The view Flow: the session as a map from sources to the main bus. */
@NullMarked
package waterwheel.desktop.flow;

import org.jspecify.annotations.NullMarked;
