package waterwheel.cli;

import java.util.List;
import java.util.OptionalDouble;
import java.util.concurrent.Callable;
import org.jspecify.annotations.Nullable;
import picocli.CommandLine.Command;
import picocli.CommandLine.Mixin;
import picocli.CommandLine.Option;
import waterwheel.core.errors.SessionFileException;
import waterwheel.core.json.Json;
import waterwheel.core.order.RunningOrder;
import waterwheel.core.order.Target;
import waterwheel.core.songs.Equal;
import waterwheel.core.songs.OrderLevels;
import waterwheel.core.songs.OrderLevelsJson;
import waterwheel.core.songs.OrderMeasurement;
import waterwheel.core.units.LevelText;

@Command(
        name = "equal",
        description = "Proposes the gains that bring songs to the target, as far as the guard on true peaks allows."
                + " Changes nothing without --apply.")
final class OrderEqualCommand implements Callable<Integer> {
    @Mixin
    private OrderOptions options = new OrderOptions();

    @Option(
            names = "--target",
            paramLabel = "LUFS",
            converter = NumberIn.SongLoudness.class,
            description = "The loudness to reach, -70 to 0; by default the running order's.")
    private @Nullable Double targetLufs;

    @Option(
            names = "--part",
            paramLabel = "NAME",
            arity = "1..*",
            description = "Only these parts, each to the target; by default every part but cues.")
    private List<String> parts = List.of();

    @Option(names = "--sum", description = "The sum of each song's parts is brought to the target, its balance kept.")
    private boolean sum;

    @Mixin
    private SongsOption songs = new SongsOption();

    @Option(names = "--apply", description = "Take the gains, and the target, into the running order.")
    private boolean apply;

    @Override
    public Integer call() throws Exception {
        RunningOrder order = songs.of(aimed(options.order()));
        OrderLevels levels = Console.withProgress(
                "Measuring", progress -> OrderMeasurement.of(order, options.place(), songs.all(), row -> {}, progress));
        for (String part : parts) {
            if (levels.parts().stream().noneMatch(one -> one.name().equals(part))) {
                throw new SessionFileException(
                        "No song has a part '" + part + "'.",
                        "Name one of "
                                + String.join(
                                        ", ",
                                        levels.parts().stream()
                                                .map(one -> one.name())
                                                .toList())
                                + ".");
            }
        }
        List<Equal> proposals = Equal.of(levels, parts);
        if (apply) {
            options.change(before -> Equal.applied(aimed(before), proposals));
        }
        if (options.json()) {
            Console.out().print(Json.pretty(OrderLevelsJson.proposals(levels, proposals, apply)));
        } else {
            for (Equal one : proposals) {
                Console.say(order.song(one.song()).title() + ", " + one.part() + ": "
                        + LevelText.change(one.changeDb()) + ", to " + LevelText.level(one.reachesLufs(), "LUFS")
                        + (one.heldByGuard() ? ", held by the guard on true peaks" : ""));
            }
            Console.say(
                    proposals.isEmpty()
                            ? "Every song is there."
                            : apply ? "Taken." : "Nothing is changed; --apply takes these gains.");
        }
        levels.rows().stream()
                .filter(row -> row.levels() == null)
                .forEach(row -> Console.tell(row.song().title() + ": " + row.problem()));
        return 0;
    }

    private RunningOrder aimed(RunningOrder order) {
        Target target = order.target().withGoal(sum ? Target.Goal.SUM : Target.Goal.PARTS);
        if (targetLufs == null) {
            return order.withTarget(target);
        }
        double lufs = targetLufs;
        if (parts.isEmpty()) {
            return order.withTarget(target.withLufs(lufs));
        }
        RunningOrder aimed = order.withTarget(target);
        for (String part : parts) {
            aimed = aimed.with(aimed.part(part).withOwnLufs(OptionalDouble.of(lufs)));
        }
        return aimed;
    }
}
