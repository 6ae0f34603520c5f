package waterwheel.cli;

import java.nio.file.Path;
import java.util.concurrent.Callable;
import picocli.CommandLine.Command;
import picocli.CommandLine.Mixin;
import picocli.CommandLine.Parameters;
import waterwheel.core.store.SessionFolder;

@Command(name = "shots", description = "Draws every view to a PNG of 1280x800, without a display.")
final class ShotsCommand implements Callable<Integer> {
    @Mixin
    private CommonOptions common = new CommonOptions();

    @Parameters(index = "0", paramLabel = "SESSION", description = "The session's folder.")
    private Path folder = Path.of("");

    @Parameters(index = "1", paramLabel = "OUTDIR", description = "Where the pictures go.")
    private Path pictures = Path.of("");

    @Override
    public Integer call() throws Exception {
        SessionFolder.load(folder);
        return Workbench.run("shots", folder.toString(), pictures.toString(), common.json ? "json" : "text");
    }
}
