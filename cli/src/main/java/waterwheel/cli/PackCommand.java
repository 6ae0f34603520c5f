package waterwheel.cli;

import com.fasterxml.jackson.databind.node.ArrayNode;
import com.fasterxml.jackson.databind.node.ObjectNode;
import java.nio.file.Path;
import java.util.List;
import java.util.concurrent.Callable;
import picocli.CommandLine.Command;
import picocli.CommandLine.Mixin;
import picocli.CommandLine.Option;
import waterwheel.core.json.Json;
import waterwheel.core.session.Session;
import waterwheel.core.store.SessionPack;

@Command(name = "pack", description = "Packs a session with all of its files into one, to be handed to someone.")
final class PackCommand implements Callable<Integer> {
    @Mixin
    private SessionOptions options = new SessionOptions();

    @Option(names = "--out", required = true, paramLabel = "FILE.zip", description = "Where the pack goes.")
    private Path out = Path.of("");

    @Option(names = "--without-frozen", description = "Leaves frozen sounds out; their channels are computed then.")
    private boolean withoutFrozen;

    @Mixin
    private OverwriteOption overwrite = new OverwriteOption();

    @Override
    public Integer call() throws Exception {
        Session session = options.session();
        List<String> missing = Console.withProgress(
                "Packing",
                progress -> SessionPack.pack(
                        session, options.folder(), out, !withoutFrozen, overwrite.overwrite, progress));
        if (options.json()) {
            ObjectNode document = Json.object();
            document.put("path", out.toString());
            ArrayNode list = document.putArray("missing");
            missing.forEach(list::add);
            Console.out().print(Json.pretty(document));
        } else {
            Console.say(out + ": " + session.title() + ", with all of its files"
                    + (missing.isEmpty() ? "." : " but those that are missing: " + String.join(", ", missing) + "."));
        }
        return missing.isEmpty() ? 0 : 1;
    }
}
