package waterwheel.cli;

import com.fasterxml.jackson.databind.node.ObjectNode;
import java.util.Map;
import java.util.Optional;
import java.util.concurrent.Callable;
import org.jspecify.annotations.Nullable;
import picocli.CommandLine.Command;
import picocli.CommandLine.Mixin;
import picocli.CommandLine.Model.CommandSpec;
import picocli.CommandLine.Option;
import picocli.CommandLine.ParameterException;
import picocli.CommandLine.Spec;
import waterwheel.core.json.Json;
import waterwheel.core.levels.ChannelLevels;
import waterwheel.core.levels.LevelsJson;
import waterwheel.core.levels.SectionLevels;
import waterwheel.core.levels.SessionLevels;
import waterwheel.core.levels.SessionMeasurement;
import waterwheel.core.levels.StageLevel;
import waterwheel.core.levels.VcaLevel;
import waterwheel.core.metering.Detail;
import waterwheel.core.metering.Figures;
import waterwheel.core.session.Channel;
import waterwheel.core.session.ChannelId;
import waterwheel.core.session.Section;
import waterwheel.core.session.Session;
import waterwheel.core.session.Vca;
import waterwheel.core.units.LevelText;

@Command(name = "levels", description = "Whole-song levels at every stage of every channel; as JSON with true peaks.")
final class LevelsCommand implements Callable<Integer> {
    @Mixin
    private SessionOptions options = new SessionOptions();

    @Spec
    private CommandSpec spec = CommandSpec.create();

    @Option(names = "--section", paramLabel = "NAME", description = "Only within this section of the song.")
    private @Nullable String sectionName;

    @Override
    public Integer call() throws Exception {
        Session session = options.session();
        boolean problems = options.tellOfProblems(session);
        // True peaks are told in JSON alone.
        Detail detail = options.json() ? Detail.EVERYTHING : Detail.LOUDNESS;
        if (sectionName == null) {
            SessionLevels levels = Console.withProgress(
                    "Measuring", progress -> SessionMeasurement.of(session, options.folder(), detail, progress));
            print(session, levels.channels(), LevelsJson.levels(levels));
        } else {
            Section section = Named.section(spec, session, sectionName);
            if (section.startFrames() >= session.lengthFrames()) {
                throw new ParameterException(
                        spec.commandLine(),
                        "The section '" + section.name() + "' begins after the song's end. Move it, or name another.");
            }
            SectionLevels levels = Console.withProgress(
                    "Measuring",
                    progress -> SessionMeasurement.of(session, options.folder(), section, detail, progress));
            print(session, levels.channels(), LevelsJson.levels(session, levels));
        }
        return problems ? 1 : 0;
    }

    private void print(Session session, Map<ChannelId, ChannelLevels> levels, ObjectNode document) {
        if (options.json()) {
            Console.out().print(Json.pretty(document));
            return;
        }
        for (Channel channel : session.channels()) {
            ChannelLevels found = levels.get(channel.id());
            if (found != null) {
                print(channel, found);
            }
        }
        for (Vca vca : session.vcas()) {
            VcaLevel.of(session, vca, id -> Optional.ofNullable(levels.get(id)))
                    .ifPresent(level -> print(session, vca, level));
        }
    }

    private static void print(Channel channel, ChannelLevels levels) {
        Console.say(channel.name());
        for (StageLevel level : levels.stages()) {
            print(level.stage().label(), level.figures());
        }
    }

    private static void print(Session session, Vca vca, VcaLevel level) {
        Console.say("VCA " + vca.name() + ", loudest member "
                + session.channel(level.loudest()).name());
        for (int i = 0; i < level.sides().size(); i++) {
            print(
                    level.sides().size() == 1 ? "Level" : i == 0 ? "Left" : "Right",
                    level.sides().get(i));
        }
    }

    private static void print(String label, Figures figures) {
        Console.say(String.format(
                "  %-10s peak %12s  average %12s  loudness %12s",
                label,
                LevelText.level(figures.samplePeakDbfs(), "dBFS"),
                LevelText.level(figures.averageDbfs(), "dBFS"),
                LevelText.level(figures.integratedLufs(), "LUFS")));
    }
}
