package waterwheel.cli;

import picocli.CommandLine.Option;

/** How long rendered files go on after the song's end, as every rendering command takes it. */
final class TailOption {
    @Option(
            names = "--tail",
            paramLabel = "SECONDS",
            converter = NumberIn.Tail.class,
            description =
                    "How long the files go on after the song's end, for reverbs to die away: 0 to 60. Default: 0.")
    double seconds;
}
