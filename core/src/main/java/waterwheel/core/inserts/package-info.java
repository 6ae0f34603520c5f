/** What can be inserted into a channel, as settings: kinds of processors, their parameters, and slots that hold them. */
@NullMarked
package waterwheel.core.inserts;

import org.jspecify.annotations.NullMarked;
