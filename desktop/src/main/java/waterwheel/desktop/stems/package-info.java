/** The step Stems: what will be rendered, the render, and its proof. */
@NullMarked
package waterwheel.desktop.stems;

import org.jspecify.annotations.NullMarked;
