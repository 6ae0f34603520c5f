package waterwheel.cli;

import java.nio.file.Path;
import java.util.concurrent.Callable;
import org.jspecify.annotations.Nullable;
import picocli.CommandLine.Command;
import picocli.CommandLine.Mixin;
import picocli.CommandLine.Option;
import picocli.CommandLine.Parameters;
import waterwheel.core.demo.DemoOrder;
import waterwheel.core.demo.DemoSession;

@Command(name = "demo", description = "Writes the demo session unless it is there, and opens the application on it.")
final class DemoCommand implements Callable<Integer> {
    @Mixin
    private CommonOptions common = new CommonOptions();

    @Parameters(
            index = "0",
            arity = "0..1",
            paramLabel = "DIR",
            description = "The session's folder; by default 'Waterwheel/Weir House Band' in your home folder.")
    private @Nullable Path folder;

    @Option(names = "--order", description = "Write six songs and their running order instead, and open that.")
    private boolean order;

    @Override
    public Integer call() throws Exception {
        return order ? runningOrder() : session();
    }

    private Integer runningOrder() throws Exception {
        Path target = folder != null ? folder : home("Weir House Band evening");
        Path file =
                Console.withProgress("Playing the demo songs", progress -> DemoOrder.writeIfMissing(target, progress));
        return Workbench.run("order", file.toString(), common.json ? "json" : "text");
    }

    private static Path home(String name) {
        return Path.of(System.getProperty("user.home"), "Waterwheel", name);
    }

    private Integer session() throws Exception {
        Path target = folder != null ? folder : home("Weir House Band");
        Console.withProgress("Playing the demo song", progress -> {
            DemoSession.writeIfMissing(target, progress);
            return target;
        });
        return Workbench.run("demo", target.toString(), common.json ? "json" : "text");
    }
}
