package waterwheel.cli;

import static org.assertj.core.api.Assertions.assertThat;

import java.util.Set;
import org.junit.jupiter.api.Test;
import picocli.CommandLine;

/** The command line that knows one command only, against the one that knows all. */
final class AskedCommandsTest extends RunCommands {
    @Test
    void a_command_asked_for_is_described_alone_and_as_among_all() {
        Commands.all().getSubcommands().forEach((name, among) -> {
            CommandLine line = Commands.asked(name, "anything", "--help");
            assertThat(line.getSubcommands().keySet()).isEqualTo(Set.of(name));
            line.getSubcommands().values().forEach(alone -> assertThat(usage(alone))
                    .isEqualTo(usage(among)));
        });
    }

    @Test
    void what_is_no_command_is_told_by_a_line_that_knows_all() {
        Set<String> all = Commands.all().getSubcommands().keySet();
        for (String first : new String[] {"--help", "-V", "levls", "", "--json", "LEVELS"}) {
            assertThat(Commands.asked(first).getSubcommands().keySet()).isEqualTo(all);
        }
        assertThat(run("levls", "x")).isEqualTo(CommandLine.ExitCode.USAGE);
        assertThat(err()).contains("levls").contains(all);
        assertThat(run("--help")).isZero();
        assertThat(out()).contains(all);
    }

    private static String usage(CommandLine command) {
        return command.getUsageMessage(CommandLine.Help.Ansi.OFF);
    }
}
