/**
 * Proposals that bring channels to a sensible level before their inserts: sustained material by its average, percussive
 * material by its peak, all held below a guard. Pure functions of measured levels; a proposal changes nothing until its
 * edit is applied.
 */
@NullMarked
package waterwheel.core.staging;

import org.jspecify.annotations.NullMarked;
