package waterwheel.cli;

import java.util.Optional;
import java.util.spi.ToolProvider;

/** Starts the application, which offers itself as a tool. */
final class Workbench {
    /** The tool's name; the application's module provides a tool of this name. */
    static final String TOOL = "waterwheel-workbench";

    private Workbench() {}

    static int run(String... args) {
        Optional<ToolProvider> tool = ToolProvider.findFirst(TOOL);
        if (tool.isEmpty()) {
            Console.tell("The application is not part of this installation. Start it with ./waterwheel.");
            return 1;
        }
        return tool.get().run(Console.out(), Console.err(), args);
    }
}
