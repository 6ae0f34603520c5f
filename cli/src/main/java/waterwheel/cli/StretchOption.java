package waterwheel.cli;

import java.util.Optional;
import org.jspecify.annotations.Nullable;
import picocli.CommandLine.Model.CommandSpec;
import picocli.CommandLine.Option;
import picocli.CommandLine.ParameterException;
import picocli.CommandLine.Spec;
import waterwheel.core.session.Section;
import waterwheel.core.session.Session;
import waterwheel.core.units.LevelText;

/** The options that choose a stretch of the song; none is all of it. */
final class StretchOption {
    @Option(names = "--section", paramLabel = "NAME", description = "One section of the song alone.")
    private @Nullable String section;

    @Option(
            names = "--from",
            paramLabel = "SECONDS",
            converter = NumberIn.Place.class,
            description = "From here on. Usual: from the song's beginning.")
    private @Nullable Double from;

    @Option(
            names = "--to",
            paramLabel = "SECONDS",
            converter = NumberIn.Place.class,
            description = "Up to here. Usual: to the song's end.")
    private @Nullable Double to;

    @Spec(Spec.Target.MIXEE)
    private CommandSpec spec = CommandSpec.create();

    /**
     * The stretch that was asked for.
     *
     * @throws ParameterException if there is no such section, or the stretch is empty
     */
    Optional<Section> of(Session session) {
        if (section != null) {
            if (from != null || to != null) {
                throw refused("Choose a section or a stretch, not both.");
            }
            return Optional.of(Named.section(spec, session, section));
        }
        if (from == null && to == null) {
            return Optional.empty();
        }
        double start = from == null ? 0 : from;
        double end = to == null ? (double) session.lengthFrames() / session.sampleRateHz() : to;
        long first = Math.round(start * session.sampleRateHz());
        long last = Math.round(end * session.sampleRateHz());
        if (first >= last) {
            throw refused("The stretch from " + LevelText.time(start) + " to " + LevelText.time(end)
                    + " is empty; its end lies behind its start.");
        }
        return Optional.of(new Section(LevelText.time(start) + " to " + LevelText.time(end), first, last));
    }

    private ParameterException refused(String message) {
        return new ParameterException(spec.commandLine(), message);
    }
}
