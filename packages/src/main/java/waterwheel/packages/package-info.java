/**
 * Builds what can be installed: names the libraries that are no modules yet, links them with the JDK's into a runtime
 * image, trains its start, and packs it as an archive and as a Debian package. Not part of the application.
 */
@NullMarked
package waterwheel.packages;

import org.jspecify.annotations.NullMarked;
