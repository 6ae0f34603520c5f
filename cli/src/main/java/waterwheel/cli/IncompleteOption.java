package waterwheel.cli;

import picocli.CommandLine.Option;

/** Whether to render what hardware has a part in that is not captured as it is now. */
final class IncompleteOption {
    @Option(
            names = "--incomplete",
            description = "Render although hardware is not captured as it is now: where it was captured otherwise, that"
                    + " is heard, where it was not, nothing passes.")
    boolean incomplete;
}
