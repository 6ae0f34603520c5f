/**
 * What came back from hardware, recorded, so that a session can be measured and rendered without it: which slots have a
 * capture of what they are sent now, in which passes the others are to be captured, and the passes themselves.
 */
@NullMarked
package waterwheel.core.captures;

import org.jspecify.annotations.NullMarked;
