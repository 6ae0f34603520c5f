package waterwheel.packages;

import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.Arrays;
import java.util.List;
import java.util.stream.Collectors;
import picocli.AutoComplete;
import picocli.CommandLine;
import picocli.CommandLine.Model.CommandSpec;
import picocli.CommandLine.Model.OptionSpec;
import picocli.CommandLine.Model.PositionalParamSpec;
import waterwheel.cli.Commands;

/** What a shell and its users are told of the command: made from the command's own description of itself. */
final class Manual {
    private final CommandLine line = Commands.all();

    /** Completion for bash, and for zsh through its bash completion. */
    void completion(Path file) throws IOException {
        Files.createDirectories(file.getParent());
        Files.writeString(file, AutoComplete.bash("waterwheel", line));
    }

    /** The manual page, in the man macros of troff: see man-pages(7). */
    void page(Path file, String version) throws IOException {
        Files.createDirectories(file.getParent());
        Files.writeString(file, page(version));
    }

    String page(String version) {
        CommandSpec spec = line.getCommandSpec();
        StringBuilder out = new StringBuilder();
        out.append(".TH WATERWHEEL 1 \"\" \"Waterwheel ").append(version).append("\" \"Waterwheel\"\n");
        out.append(".SH NAME\nwaterwheel \\- a multitrack session's signal flow, measured levels and stems\n");
        out.append(".SH SYNOPSIS\n.B waterwheel\n[\\fICOMMAND\\fR [\\fIARGUMENT\\fR]...]\n");
        out.append(".SH DESCRIPTION\n").append(text(spec.usageMessage().description()));
        out.append(" Without a command it opens the start screen.\n");
        out.append(".SH COMMANDS\n");
        commands(out, "", line);
        out.append(".SH EXIT STATUS\n0 done; 1 findings, something refused, or a proof that failed; 2 wrong usage.\n");
        return out.toString();
    }

    private static void commands(StringBuilder out, String before, CommandLine of) {
        of.getSubcommands().values().stream().distinct().forEach(sub -> {
            CommandSpec spec = sub.getCommandSpec();
            String name = before + spec.name();
            out.append(".SS ").append(escaped(name)).append('\n');
            out.append(text(spec.usageMessage().description())).append('\n');
            spec.positionalParameters().stream()
                    .filter(parameter -> !parameter.hidden())
                    .forEach(parameter -> entry(out, label(parameter), parameter.description()));
            spec.options().stream()
                    .filter(option -> !option.hidden() && !option.usageHelp())
                    .forEach(option -> entry(out, label(option), option.description()));
            commands(out, name + " ", sub);
        });
    }

    private static void entry(StringBuilder out, String label, String[] description) {
        out.append(".TP\n\\fB").append(escaped(label)).append("\\fR\n");
        out.append(text(description)).append('\n');
    }

    private static String label(PositionalParamSpec parameter) {
        return parameter.paramLabel();
    }

    private static String label(OptionSpec option) {
        String names = Arrays.stream(option.names()).collect(Collectors.joining(", "));
        return option.arity().max() == 0 ? names : names + "=" + option.paramLabel();
    }

    private static String text(String[] lines) {
        String text = escaped(String.join(" ", List.of(lines)));
        // A line that begins with one of these would be taken as a request.
        return text.startsWith(".") || text.startsWith("'") ? "\\&" + text : text;
    }

    private static String escaped(String text) {
        return text.replace("\\", "\\e").replace("-", "\\-").replace("%n", " ").replace("%%", "%");
    }
}
