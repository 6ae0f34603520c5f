package waterwheel.cli;

import java.nio.file.Path;
import java.util.concurrent.Callable;
import picocli.CommandLine.Command;
import picocli.CommandLine.Mixin;
import picocli.CommandLine.Parameters;

@Command(name = "shots", description = "Draws every view to a PNG of 1280x800, without a display.")
final class ShotsCommand implements Callable<Integer> {
    @Mixin
    private SessionOptions options = new SessionOptions();

    @Parameters(index = "1", paramLabel = "OUTDIR", description = "Where the pictures go.")
    private Path pictures = Path.of("");

    @Override
    public Integer call() throws Exception {
        String what = OpenCommand.readable(options.folder()).toString();
        return Workbench.run("shots", what, pictures.toString(), options.json() ? "json" : "text");
    }
}
