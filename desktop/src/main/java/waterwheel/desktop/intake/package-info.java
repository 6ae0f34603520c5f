/** The step Intake: what came, drawn and in words, and what can be done about it. */
@NullMarked
package waterwheel.desktop.intake;

import org.jspecify.annotations.NullMarked;
