package waterwheel.cli;

import com.fasterxml.jackson.databind.node.ArrayNode;
import com.fasterxml.jackson.databind.node.ObjectNode;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import java.util.OptionalInt;
import java.util.concurrent.Callable;
import org.jspecify.annotations.Nullable;
import picocli.CommandLine.Command;
import picocli.CommandLine.ITypeConverter;
import picocli.CommandLine.Mixin;
import picocli.CommandLine.Model.CommandSpec;
import picocli.CommandLine.Option;
import picocli.CommandLine.ParameterException;
import picocli.CommandLine.Parameters;
import picocli.CommandLine.Spec;
import picocli.CommandLine.TypeConversionException;
import waterwheel.core.errors.AudioFileException;
import waterwheel.core.json.Json;
import waterwheel.core.session.PanLaw;
import waterwheel.core.store.NewSession;

@Command(name = "new", description = "Makes a session of audio files.")
final class NewCommand implements Callable<Integer> {
    @Mixin
    private CommonOptions common = new CommonOptions();

    @Option(
            names = "--pairs",
            description = "Files of more than two channels become stereo tracks; by default mono ones.")
    private boolean pairs;

    @Option(
            names = "--rate",
            paramLabel = "HZ",
            description = "The session's sample rate; by default the one that most files have.")
    private @Nullable Integer rate;

    @Option(
            names = "--pan-law",
            paramLabel = "DB",
            converter = PanLawConverter.class,
            description = "Level of a centred mono source on each side: 0, -2.5, -3 (default), -4.5 or -6.")
    private PanLaw panLaw = PanLaw.MINUS_3;

    @Option(names = "--reference", description = "Leave the files where they are instead of copying them.")
    private boolean reference;

    @Option(
            names = "--time-reference",
            description = "Place Broadcast Wave files by their time references, the earliest at the beginning.")
    private boolean timeReference;

    @Parameters(index = "0", paramLabel = "DIR", description = "The new session's folder.")
    private Path folder = Path.of("");

    @Parameters(index = "1..*", arity = "1..*", paramLabel = "FILE", description = "Audio files, or folders of them.")
    private List<Path> files = new ArrayList<>();

    @Spec
    private CommandSpec spec = CommandSpec.create();

    @Override
    public Integer call() throws Exception {
        if (rate != null && (rate < 8_000 || rate > 384_000)) {
            throw new ParameterException(
                    spec.commandLine(), "A session runs at 8000 to 384000 Hz, not at " + rate + ".");
        }
        NewSession.Options options = new NewSession.Options(
                rate == null ? OptionalInt.empty() : OptionalInt.of(rate),
                panLaw,
                -18,
                !reference,
                timeReference,
                pairs);
        NewSession.Made made =
                Console.withProgress("Taking files in", progress -> NewSession.make(folder, files, options, progress));
        if (common.json) {
            ObjectNode node = Json.object();
            node.put("session", folder.toString());
            node.put("sampleRate", made.session().sampleRateHz());
            node.put("tracks", made.session().tracks().size());
            ArrayNode refused = node.putArray("refused");
            made.refused().forEach(e -> refused.add(e.getMessage()));
            Console.out().print(Json.pretty(node));
        } else {
            Console.say("Made " + folder + " with "
                    + made.session().tracks().size() + " tracks at "
                    + made.session().sampleRateHz() + " Hz.");
        }
        for (AudioFileException refusal : made.refused()) {
            Console.tell(refusal.getMessage());
        }
        return made.refused().isEmpty() ? 0 : 1;
    }

    /** Reads a pan law as it is said. */
    static final class PanLawConverter implements ITypeConverter<PanLaw> {
        @Override
        public PanLaw convert(String text) {
            return switch (text.replace("\u2212", "-").replace(" ", "").replace("dB", "")) {
                case "0" -> PanLaw.ZERO;
                case "-2.5" -> PanLaw.MINUS_2_5;
                case "-3" -> PanLaw.MINUS_3;
                case "-4.5" -> PanLaw.MINUS_4_5;
                case "-6" -> PanLaw.MINUS_6;
                default -> throw new TypeConversionException("'" + text + "' is not 0, -2.5, -3, -4.5 or -6");
            };
        }
    }
}
