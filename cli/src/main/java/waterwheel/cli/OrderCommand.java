package waterwheel.cli;

import picocli.CommandLine.Command;
import picocli.CommandLine.Model.CommandSpec;
import picocli.CommandLine.ParameterException;
import picocli.CommandLine.Spec;

@Command(
        name = "order",
        mixinStandardHelpOptions = true,
        description = "Keeps songs equally loud, part by part, in a running order.",
        subcommands = {
            OrderNewCommand.class,
            OrderAddCommand.class,
            OrderListCommand.class,
            OrderLevelsCommand.class,
            OrderEqualCommand.class,
            OrderDeliverCommand.class,
            OrderLikeCommand.class
        })
final class OrderCommand implements Runnable {
    @Spec
    private CommandSpec spec = CommandSpec.create();

    @Override
    public void run() {
        throw new ParameterException(
                spec.commandLine(),
                "Say what to do with the running order: "
                        + String.join(", ", spec.subcommands().keySet()) + ".");
    }
}
