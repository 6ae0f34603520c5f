package waterwheel.cli;

import java.util.concurrent.Callable;
import picocli.CommandLine.Command;
import picocli.CommandLine.Mixin;

@Command(name = "open", description = "Opens the application on a session.")
final class OpenCommand implements Callable<Integer> {
    @Mixin
    private SessionOptions options = new SessionOptions();

    @Override
    public Integer call() throws Exception {
        options.refuseUnreadable();
        return Workbench.run("open", options.folder().toString(), options.json() ? "json" : "text");
    }
}
