package waterwheel.cli;

import java.util.concurrent.Callable;
import org.jspecify.annotations.Nullable;
import picocli.CommandLine.Command;
import picocli.CommandLine.Mixin;
import picocli.CommandLine.Option;
import waterwheel.core.json.Json;
import waterwheel.core.order.RunningOrder;
import waterwheel.core.store.OrderFile;
import waterwheel.core.units.FileStem;

@Command(name = "new", description = "Begins a running order in a file that ends in .json.")
final class OrderNewCommand implements Callable<Integer> {
    @Mixin
    private OrderOptions options = new OrderOptions();

    @Option(names = "--title", paramLabel = "TITLE", description = "What it is called; by default as its file.")
    private @Nullable String title;

    @Override
    public Integer call() throws Exception {
        String name = title == null || title.isBlank() ? FileStem.of(options.file()) : title;
        RunningOrder order = RunningOrder.empty(name);
        OrderFile.create(order, options.file());
        if (options.json()) {
            Console.out().print(Json.pretty(OrderListCommand.document(order, options.place())));
        } else {
            Console.say("Began " + options.file() + ".");
        }
        return 0;
    }
}
