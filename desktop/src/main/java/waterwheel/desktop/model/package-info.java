/** What the views show and what a user can mean: one open session with its levels, findings and transport. Interface thread only. */
@NullMarked
package waterwheel.desktop.model;

import org.jspecify.annotations.NullMarked;
