package waterwheel.cli;

import picocli.CommandLine.Option;

/** What every command takes. */
final class CommonOptions {
    @Option(names = "--json", description = "Print one JSON document on standard output and nothing else there.")
    boolean json;

    @Option(names = "--debug", description = "Show where in the program an error came from.")
    boolean debug;

    @Option(
            names = {"-h", "--help"},
            usageHelp = true,
            description = "Show this help.")
    boolean help;
}
