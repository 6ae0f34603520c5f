/** How figures become JSON: keys in camelCase that end in their unit, silence as null, a fixed number of decimals. */
@NullMarked
package waterwheel.core.json;

import org.jspecify.annotations.NullMarked;
