package waterwheel.cli;

import java.io.PrintStream;
import java.io.PrintWriter;
import java.nio.charset.StandardCharsets;
import java.util.List;
import java.util.concurrent.Callable;
import java.util.concurrent.CancellationException;
import picocli.CommandLine;
import picocli.CommandLine.Command;
import waterwheel.core.errors.WaterwheelException;

/** Entry of the {@code waterwheel} command. Without arguments it opens the application's start screen. */
@Command(
        name = "waterwheel",
        mixinStandardHelpOptions = true,
        version = "Waterwheel 0.1.0",
        description = "Builds a multitrack session's signal flow, measures it at every point, renders stems.",
        subcommands = {
            DemoCommand.class,
            OpenCommand.class,
            ShotsCommand.class,
            NewCommand.class,
            MeasureCommand.class,
            LevelsCommand.class,
            CheckCommand.class,
            StageCommand.class,
            StemsCommand.class,
            MixCommand.class
        })
public final class Main implements Callable<Integer> {

    /** Runs one command and ends the process with its status. */
    public static void main(String[] args) {
        System.exit(run(
                new PrintStream(System.out, true, StandardCharsets.UTF_8),
                new PrintStream(System.err, true, StandardCharsets.UTF_8),
                args));
    }

    /** Runs one command and returns its status; everything that it prints goes to the given streams. */
    static int run(PrintStream out, PrintStream err, String... args) {
        Console.use(out, err);
        CommandLine line = new CommandLine(new Main());
        line.setCaseInsensitiveEnumValuesAllowed(true);
        line.setOut(new PrintWriter(out, true, StandardCharsets.UTF_8));
        line.setErr(new PrintWriter(err, true, StandardCharsets.UTF_8));
        line.setExecutionExceptionHandler((e, command, parsed) -> failed(e, err, List.of(args)));
        return line.execute(args);
    }

    private static int failed(Exception e, PrintStream err, List<String> args) {
        if (args.contains("--debug")) {
            e.printStackTrace(err);
        } else if (e instanceof WaterwheelException) {
            err.println(e.getMessage());
        } else if (e instanceof CancellationException) {
            err.println("Stopped; nothing was left half done.");
        } else {
            err.println("Waterwheel met an error of its own: " + e + ". Run it again with --debug to see where.");
        }
        return 1;
    }

    @Override
    public Integer call() {
        return Workbench.run("start");
    }
}
