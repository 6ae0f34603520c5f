/**
 * The one engine. A session is compiled to a {@link waterwheel.core.engine.Plan}: signals in topological order, joined
 * by edges that carry linear gains. Every driver (rendering, whole-song measurement, playback) runs plans through a
 * {@link waterwheel.core.engine.PlanRun}, block by block; there is no second mixing path.
 *
 * <p>Samples are float, planar, full scale ±1.0; sums are formed in double. What comes out depends neither on the size
 * of the blocks nor on the number of threads: every sum adds its inputs in the session's order, whoever computes them.
 */
@NullMarked
package waterwheel.core.engine;

import org.jspecify.annotations.NullMarked;
