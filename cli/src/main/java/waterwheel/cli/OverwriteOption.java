package waterwheel.cli;

import picocli.CommandLine.Option;

/** Whether files that others made may be replaced, as every command takes it that writes some. */
final class OverwriteOption {
    @Option(
            names = "--overwrite",
            description = "Replace files of the same name that Waterwheel did not render. A session's own files are"
                    + " never replaced.")
    boolean overwrite;
}
