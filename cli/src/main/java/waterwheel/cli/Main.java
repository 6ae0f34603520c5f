package waterwheel.cli;

import java.io.PrintStream;
import java.io.PrintWriter;
import java.nio.charset.StandardCharsets;
import java.util.List;
import java.util.concurrent.Callable;
import java.util.concurrent.CancellationException;
import picocli.CommandLine;
import picocli.CommandLine.Command;
import picocli.CommandLine.ParameterException;
import waterwheel.core.errors.WaterwheelException;
import waterwheel.core.units.PlainText;

/** Entry of the {@code waterwheel} command. Without arguments it opens the application's start screen. */
@Command(
        name = "waterwheel",
        mixinStandardHelpOptions = true,
        version = "Waterwheel 0.1.0",
        description = "Builds a multitrack session's signal flow, measures it at every point, renders stems.")
public final class Main implements Callable<Integer> {
    private static final int MOST_CHARACTERS = 2_000;

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
        CommandLine line = Commands.asked(args);
        line.setCaseInsensitiveEnumValuesAllowed(true);
        line.setOut(new PrintWriter(out, true, StandardCharsets.UTF_8));
        line.setErr(new PrintWriter(err, true, StandardCharsets.UTF_8));
        line.setParameterExceptionHandler((e, wrong) -> misused(e));
        line.setExecutionExceptionHandler((e, command, parsed) -> failed(e, err, List.of(args)));
        return line.execute(args);
    }

    /** Says what is wrong with the arguments, and how they are to be. */
    private static int misused(ParameterException e) {
        Console.tell(PlainText.of(String.valueOf(e.getMessage()), MOST_CHARACTERS));
        Console.err().println(e.getCommandLine().getUsageMessage(CommandLine.Help.Ansi.OFF));
        return CommandLine.ExitCode.USAGE;
    }

    private static int failed(Exception e, PrintStream err, List<String> args) {
        if (args.contains("--debug")) {
            e.printStackTrace(err);
        } else if (e instanceof WaterwheelException) {
            Console.tell(String.valueOf(e.getMessage()));
        } else if (e instanceof CancellationException) {
            err.println("Stopped; nothing was left half done.");
        } else {
            Console.tell("Waterwheel met an error of its own: " + PlainText.of(String.valueOf(e), 400)
                    + ". Run it again with --debug to see where.");
        }
        return 1;
    }

    @Override
    public Integer call() {
        return Workbench.run("start");
    }
}
