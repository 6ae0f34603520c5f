package waterwheel.cli;

import java.nio.file.Path;
import java.util.List;
import java.util.Optional;
import java.util.concurrent.Callable;
import org.jspecify.annotations.Nullable;
import picocli.CommandLine.ArgGroup;
import picocli.CommandLine.Command;
import picocli.CommandLine.Mixin;
import picocli.CommandLine.Model.CommandSpec;
import picocli.CommandLine.Option;
import picocli.CommandLine.ParameterException;
import picocli.CommandLine.Spec;
import waterwheel.core.errors.SessionFileException;
import waterwheel.core.json.Json;
import waterwheel.core.order.LineUp;
import waterwheel.core.order.RunningOrder;
import waterwheel.core.order.Song;
import waterwheel.core.songs.ChannelPlan;
import waterwheel.core.songs.DeliveredPart;
import waterwheel.core.songs.DeliveredSong;
import waterwheel.core.songs.Delivery;
import waterwheel.core.songs.DeliveryJson;
import waterwheel.core.songs.DeliveryReport;
import waterwheel.core.songs.DeliveryRequest;
import waterwheel.core.units.LevelText;

@Command(
        name = "deliver",
        description = "Writes the songs as corrected: a file a part with their sum, or one file a song with parts on"
                + " chosen channels. What lies there already and is up to date stays. Ends with 1 if a song is not"
                + " whole.")
final class OrderDeliverCommand implements Callable<Integer> {
    @Spec
    private CommandSpec spec = CommandSpec.create();

    @Mixin
    private OrderOptions options = new OrderOptions();

    @Option(names = "--out", required = true, paramLabel = "DIR", description = "Where the songs' folders go.")
    private Path out = Path.of("");

    @Mixin
    private FormatOption format = new FormatOption();

    @ArgGroup
    private @Nullable Layout layout;

    /** At most one way to lay parts onto channels; none is a file a part. */
    static final class Layout {
        @Option(
                names = "--sides",
                description = "One file a song: all music to the left, clicks and cues to the right.")
        private boolean sides;

        @Option(
                names = "--channels",
                paramLabel = "N",
                description = "One file a song with 2 to 8 channels: parts on pairs in their order, cues behind them.")
        private @Nullable Integer channels;
    }

    @Option(names = "--line-up", paramLabel = "NAME", description = "Only the parts of this line-up.")
    private @Nullable String lineUp;

    @Mixin
    private SongsOption songs = new SongsOption();

    @Option(names = "--jsonl", description = "Print each song's object on a line of its own as soon as it is done.")
    private boolean lines;

    @Mixin
    private OverwriteOption overwrite = new OverwriteOption();

    @Override
    public Integer call() throws Exception {
        RunningOrder order = options.order();
        RunningOrder some = songs.of(order);
        DeliveryRequest request =
                new DeliveryRequest(out, format.format, channels(order), lineUp(order), overwrite.overwrite);
        Delivery delivery = new Delivery(order, options.place(), request);
        List<DeliveredSong> delivered = Console.withProgress(
                "Delivering",
                progress -> delivery.deliver(some.songs().stream().map(Song::id).toList(), this::done, progress));
        if (songs.all()) {
            DeliveryReport.write(order, request, delivered);
        }
        if (options.json() && !lines) {
            Console.out().print(Json.pretty(DeliveryJson.of(request, delivered)));
        }
        return delivered.stream().allMatch(DeliveredSong::holds) ? 0 : 1;
    }

    private void done(DeliveredSong song) {
        if (lines) {
            Console.say(Json.compact(DeliveryJson.song(song)));
        } else if (!options.json() && song.delivered()) {
            Console.say(song.folder() + (song.upToDate() ? ", up to date" : "") + ": " + song.proof());
            for (DeliveredPart part : song.parts()) {
                Console.say("  " + part.name() + " (" + part.where() + "): "
                        + LevelText.level(part.level().integratedLufs(), "LUFS") + ", true peak "
                        + LevelText.level(part.level().truePeakDbtp(), "dBTP"));
            }
        }
        if (!song.delivered()) {
            Console.tell(song.title() + ": " + song.proof());
        }
    }

    private Optional<ChannelPlan> channels(RunningOrder order) {
        if (layout != null && layout.sides) {
            return Optional.of(ChannelPlan.sides(order.parts()));
        }
        if (layout == null || layout.channels == null) {
            return Optional.empty();
        }
        int channels = layout.channels;
        if (channels < ChannelPlan.LEAST_CHANNELS || channels > ChannelPlan.MOST_CHANNELS) {
            throw new ParameterException(
                    spec.commandLine(),
                    "A file has " + ChannelPlan.LEAST_CHANNELS + " to " + ChannelPlan.MOST_CHANNELS + " channels, not "
                            + channels + ".");
        }
        return Optional.of(ChannelPlan.of(channels, order.parts()));
    }

    private Optional<LineUp> lineUp(RunningOrder order) throws SessionFileException {
        if (lineUp == null) {
            return Optional.empty();
        }
        Optional<LineUp> found = order.lineUp(lineUp);
        if (found.isEmpty()) {
            List<String> names = order.lineUps().stream().map(LineUp::name).toList();
            throw new SessionFileException(
                    "There is no line-up '" + lineUp + "'.",
                    names.isEmpty() ? "The running order has none." : "Name one of " + String.join(", ", names) + ".");
        }
        return found;
    }
}
