import java.util.spi.ToolProvider;

/** The application: shows a session with its measurements and sends edits; computes nothing of its own. */
module waterwheel.desktop {
    requires atlantafx.base;
    requires java.desktop;
    requires javafx.controls;
    requires net.harawata.appdirs;
    requires org.commonmark;
    requires waterwheel.core;
    requires static org.jspecify;

    exports waterwheel.desktop.app to
            javafx.graphics;

    provides ToolProvider with
            waterwheel.desktop.app.WorkbenchTool;
}
