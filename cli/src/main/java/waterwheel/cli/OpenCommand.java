package waterwheel.cli;

import java.nio.file.Path;
import java.util.concurrent.Callable;
import picocli.CommandLine.Command;
import picocli.CommandLine.Mixin;
import picocli.CommandLine.Parameters;
import waterwheel.core.store.SessionFolder;

@Command(name = "open", description = "Opens the application on a session.")
final class OpenCommand implements Callable<Integer> {
    @Mixin
    private CommonOptions common = new CommonOptions();

    @Parameters(index = "0", paramLabel = "SESSION", description = "The session's folder.")
    private Path folder = Path.of("");

    @Override
    public Integer call() throws Exception {
        // Refused here rather than in a window that then says the same.
        SessionFolder.load(folder);
        return Workbench.run("open", folder.toString(), common.json ? "json" : "text");
    }
}
