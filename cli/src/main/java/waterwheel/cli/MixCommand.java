package waterwheel.cli;

import com.fasterxml.jackson.databind.node.ObjectNode;
import java.nio.file.Path;
import java.util.concurrent.Callable;
import picocli.CommandLine.Command;
import picocli.CommandLine.Mixin;
import picocli.CommandLine.Option;
import waterwheel.core.json.Json;
import waterwheel.core.session.Session;
import waterwheel.core.stems.StemRender;

@Command(name = "mix", description = "Renders the mix alone.")
final class MixCommand implements Callable<Integer> {
    @Mixin
    private SessionOptions options = new SessionOptions();

    @Option(names = "--out", required = true, paramLabel = "FILE", description = "The file to write, WAV or FLAC.")
    private Path out = Path.of("");

    @Mixin
    private TailOption tail = new TailOption();

    @Mixin
    private FormatOption format = new FormatOption();

    @Mixin
    private OverwriteOption overwrite = new OverwriteOption();

    @Mixin
    private IncompleteOption incomplete = new IncompleteOption();

    @Override
    public Integer call() throws Exception {
        Session session = options.session();
        options.tellOfChanged(session);
        long limited = Console.withProgress(
                "Rendering",
                progress -> StemRender.mix(
                        session,
                        options.folder(),
                        out,
                        format.format,
                        tail.seconds,
                        overwrite.overwrite,
                        incomplete.incomplete,
                        progress));
        if (options.json()) {
            ObjectNode node = Json.object();
            node.put("path", out.toString());
            node.put("frames", StemRender.frames(session, tail.seconds));
            node.put("sampleRate", session.sampleRateHz());
            node.put("encoding", format.format.label());
            node.put("limitedSamples", limited);
            Console.out().print(Json.pretty(node));
        } else {
            Console.say("Rendered " + out + ".");
        }
        if (limited > 0) {
            Console.tell(limited + " samples of " + out.getFileName()
                    + " were cut off at full scale. Lower the main bus's trim, or render to 32-bit float.");
        }
        return limited > 0 ? 1 : 0;
    }
}
