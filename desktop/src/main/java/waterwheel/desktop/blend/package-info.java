/** The view Blend: lanes with faders, grouped under the bus that they feed. */
@NullMarked
package waterwheel.desktop.blend;

import org.jspecify.annotations.NullMarked;
