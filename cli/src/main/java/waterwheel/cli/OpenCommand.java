package waterwheel.cli;

import java.nio.file.Files;
import java.nio.file.Path;
import java.util.Objects;
import java.util.concurrent.Callable;
import org.jspecify.annotations.Nullable;
import picocli.CommandLine.Command;
import picocli.CommandLine.Mixin;
import picocli.CommandLine.Parameters;
import waterwheel.core.errors.SessionFileException;
import waterwheel.core.store.OrderFile;
import waterwheel.core.store.SessionFolder;

@Command(name = "open", description = "Opens the application on a session or a running order.")
final class OpenCommand implements Callable<Integer> {
    @Mixin
    private CommonOptions common = new CommonOptions();

    @Parameters(
            index = "0",
            arity = "0..1",
            paramLabel = "SESSION",
            description = "The session's folder or the session.json in it, or a running order's file; without it, the"
                    + " start screen opens.")
    private @Nullable Path what;

    @Override
    public Integer call() throws Exception {
        if (what == null) {
            return Workbench.run("start");
        }
        return Workbench.run("open", readable(what).toString(), common.json ? "json" : "text");
    }

    /**
     * What is to be opened: a session's folder or a running order's file. A file manager hands over a session's file.
     *
     * @throws SessionFileException before a window opens, if it is neither or cannot be read
     */
    static Path readable(Path what) throws SessionFileException {
        boolean file = Files.isRegularFile(what);
        if (file && !what.endsWith(SessionFolder.SESSION_FILE)) {
            OrderFile.load(what);
            return what;
        }
        Path folder = file ? Objects.requireNonNull(what.toAbsolutePath().getParent()) : what;
        SessionFolder.load(folder);
        return folder;
    }
}
