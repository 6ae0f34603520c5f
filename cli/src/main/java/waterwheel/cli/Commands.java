package waterwheel.cli;

import java.util.List;
import picocli.CommandLine;
import picocli.CommandLine.Command;

/** What {@code waterwheel} can be asked for, in the order in which its help lists it. */
public final class Commands {
    private static final List<Class<?>> ALL = List.of(
            DemoCommand.class,
            OpenCommand.class,
            ShotsCommand.class,
            NewCommand.class,
            MeasureCommand.class,
            LevelsCommand.class,
            CheckCommand.class,
            StageCommand.class,
            RidesCommand.class,
            PortsCommand.class,
            TimeCommand.class,
            CaptureCommand.class,
            RecordCommand.class,
            FreezeCommand.class,
            LoadCommand.class,
            PrintCommand.class,
            InstrumentCommand.class,
            UnfreezeCommand.class,
            PackCommand.class,
            UnpackCommand.class,
            StemsCommand.class,
            MixCommand.class,
            OrderCommand.class);

    private Commands() {}

    /** The command line with everything that it knows. */
    public static CommandLine all() {
        return with(ALL);
    }

    /**
     * The command line for these arguments: with the one command that they begin with, because finding out the options
     * of all takes longer than most of them run; with all where they begin with none of them.
     */
    static CommandLine asked(String... args) {
        if (args.length == 0) {
            return with(List.of());
        }
        return ALL.stream()
                .filter(command -> command.getAnnotation(Command.class).name().equals(args[0]))
                .findFirst()
                .map(command -> with(List.of(command)))
                .orElseGet(Commands::all);
    }

    private static CommandLine with(List<Class<?>> commands) {
        CommandLine line = new CommandLine(new Main());
        commands.forEach(line::addSubcommand);
        return line;
    }
}
