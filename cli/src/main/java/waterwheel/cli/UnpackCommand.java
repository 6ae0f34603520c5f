package waterwheel.cli;

import java.nio.file.Path;
import java.util.concurrent.Callable;
import picocli.CommandLine.Command;
import picocli.CommandLine.Mixin;
import picocli.CommandLine.Parameters;
import waterwheel.core.json.Json;
import waterwheel.core.store.SessionPack;

@Command(name = "unpack", description = "Unpacks a session into a folder of its own, and writes nothing outside of it.")
final class UnpackCommand implements Callable<Integer> {
    @Mixin
    private CommonOptions common = new CommonOptions();

    @Parameters(index = "0", paramLabel = "FILE.zip", description = "What waterwheel pack made.")
    private Path file = Path.of("");

    @Parameters(
            index = "1",
            paramLabel = "DIR",
            description = "The session's folder; must not be there yet, or be empty.")
    private Path folder = Path.of("");

    @Override
    public Integer call() throws Exception {
        Console.withProgress("Unpacking", progress -> {
            SessionPack.unpack(file, folder, progress);
            return true;
        });
        if (common.json) {
            Console.out().print(Json.pretty(Json.object().put("session", folder.toString())));
        } else {
            Console.say(folder + " is a session now.");
        }
        return 0;
    }
}
