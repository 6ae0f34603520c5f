/**
 * Findings: what a colleague would say about a session. Each is a sentence with its place, its time, why it matters
 * there, and a remedy that can be applied and undone where there is one. Few and right: a false finding is a defect.
 */
@NullMarked
package waterwheel.core.findings;

import org.jspecify.annotations.NullMarked;
