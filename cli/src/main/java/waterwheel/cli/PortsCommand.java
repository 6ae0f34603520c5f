package waterwheel.cli;

import com.fasterxml.jackson.databind.node.ArrayNode;
import com.fasterxml.jackson.databind.node.ObjectNode;
import java.util.List;
import java.util.Locale;
import java.util.concurrent.Callable;
import java.util.stream.Collectors;
import picocli.CommandLine.Command;
import picocli.CommandLine.Mixin;
import waterwheel.core.captures.PortUsers;
import waterwheel.core.json.Json;
import waterwheel.core.ports.AudioPort;
import waterwheel.core.rack.Port;
import waterwheel.core.rack.PortSide;
import waterwheel.core.session.Session;
import waterwheel.core.simulation.RackPort;
import waterwheel.core.units.LevelText;

@Command(name = "ports", description = "The ports of a session's interface, and what uses them.")
final class PortsCommand implements Callable<Integer> {
    @Mixin
    private SessionOptions options = new SessionOptions();

    @Override
    public Integer call() throws Exception {
        Session session = options.session();
        PortUsers users = PortUsers.of(session);
        ObjectNode document = Json.object();
        try (AudioPort port = RackPort.of(session.rack(), session.sampleRateHz())) {
            port.open(session.sampleRateHz(), session.rack().blockFrames());
            document.put("interface", port.name());
            if (!options.json()) {
                Console.say(port.name() + ": " + port.inputs() + " inputs, " + port.outputs() + " outputs.");
            }
            ArrayNode list = document.putArray("ports");
            for (PortSide side : PortSide.values()) {
                int count = side == PortSide.INPUT ? port.inputs() : port.outputs();
                for (int number = 1; number <= count; number++) {
                    tell(list, session, session.rack().port(side, number), users);
                }
            }
        }
        if (options.json()) {
            Console.out().print(Json.pretty(document));
        }
        return 0;
    }

    private void tell(ArrayNode list, Session session, Port port, PortUsers users) {
        List<String> who = users.of(port.side(), port.number()).stream()
                .map(user -> user.label(session))
                .toList();
        ObjectNode node = list.addObject();
        node.put("side", port.side().label().toLowerCase(Locale.ROOT));
        node.put("number", port.number());
        node.put("name", port.name());
        node.set("fullScaleDbu", Json.figure(port.fullScaleDbu()));
        ArrayNode used = node.putArray("usedBy");
        who.forEach(used::add);
        if (!options.json()) {
            Console.say(String.format(
                    "%-28s %8s  %s",
                    port.label(),
                    LevelText.level(port.fullScaleDbu(), "dBu"),
                    who.isEmpty() ? "free" : who.stream().collect(Collectors.joining(", "))));
        }
    }
}
