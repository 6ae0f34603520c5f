package waterwheel.cli;

import java.util.concurrent.Callable;
import picocli.CommandLine.Command;
import picocli.CommandLine.Mixin;
import waterwheel.core.json.FiguresJson;
import waterwheel.core.json.Json;
import waterwheel.core.levels.ChannelLevels;
import waterwheel.core.levels.SessionLevels;
import waterwheel.core.levels.StageLevel;
import waterwheel.core.session.Channel;
import waterwheel.core.session.Session;
import waterwheel.core.units.LevelText;

@Command(name = "levels", description = "Whole-song levels at every stage of every channel.")
final class LevelsCommand implements Callable<Integer> {
    @Mixin
    private SessionOptions options = new SessionOptions();

    @Override
    public Integer call() throws Exception {
        Session session = options.session();
        SessionLevels levels = options.measure(session);
        if (options.json()) {
            Console.out().print(Json.pretty(FiguresJson.levels(levels)));
            return 0;
        }
        for (Channel channel : session.channels()) {
            levels.of(channel.id()).ifPresent(found -> print(channel, found));
        }
        return 0;
    }

    private static void print(Channel channel, ChannelLevels levels) {
        Console.out().println(channel.name());
        for (StageLevel level : levels.stages()) {
            Console.out()
                    .println(String.format(
                            "  %-10s peak %12s  average %12s  loudness %12s",
                            level.stage().label(),
                            LevelText.level(level.figures().samplePeakDbfs(), "dBFS"),
                            LevelText.level(level.figures().averageDbfs(), "dBFS"),
                            LevelText.level(level.figures().integratedLufs(), "LUFS")));
        }
    }
}
