/** Starting and ending the application, its window's content, settings, and pictures of its views. */
@NullMarked
package waterwheel.desktop.app;

import org.jspecify.annotations.NullMarked;
