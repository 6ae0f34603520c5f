/**
 * What a user can put right: every failure that is not a programmer's mistake is a {@link
 * waterwheel.core.errors.WaterwheelException} that says in one sentence what is wrong and in another what to do.
 */
@NullMarked
package waterwheel.core.errors;

import org.jspecify.annotations.NullMarked;
