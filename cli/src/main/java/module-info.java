import java.util.spi.ToolProvider;

/** The waterwheel commands. The application is found as a tool by name, so that neither module needs the other. */
module waterwheel.cli {
    requires info.picocli;
    requires waterwheel.core;
    requires static org.jspecify;

    uses ToolProvider;

    opens waterwheel.cli to
            info.picocli;
}
