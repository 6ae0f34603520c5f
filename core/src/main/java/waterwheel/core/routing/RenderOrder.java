package waterwheel.core.routing;

import java.util.ArrayList;
import java.util.Collections;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import waterwheel.core.session.Channel;
import waterwheel.core.session.ChannelId;
import waterwheel.core.session.Session;

/** The order in which channels can be computed, or the loop that forbids one. */
public sealed interface RenderOrder {
    /** Every channel after all of its inputs; ties keep session order. */
    record Ordered(List<ChannelId> channels) implements RenderOrder {
        public Ordered {
            channels = List.copyOf(channels);
        }
    }

    /** One feedback loop in signal order; first and last are the same channel. */
    record Loop(List<ChannelId> path) implements RenderOrder {
        public Loop {
            path = List.copyOf(path);
        }

        /** The loop in words, by the channels' names. */
        public String inWords(Session session) {
            return String.join(
                    " → ", path.stream().map(id -> session.channel(id).name()).toList());
        }
    }

    /**
     * Orders a session's channels (Kahn 1962, Topological sorting of large networks). Time grows with channels times
     * connections, which is nothing for the few hundred channels of a session.
     */
    static RenderOrder of(Session session) {
        Map<ChannelId, List<ChannelId>> openInputs = inputs(session);
        List<ChannelId> done = new ArrayList<>();
        while (!openInputs.isEmpty()) {
            List<ChannelId> ready = openInputs.entrySet().stream()
                    .filter(entry -> entry.getValue().isEmpty())
                    .map(Map.Entry::getKey)
                    .toList();
            if (ready.isEmpty()) {
                return loopAmong(openInputs);
            }
            done.addAll(ready);
            ready.forEach(openInputs::remove);
            openInputs.values().forEach(inputs -> inputs.removeAll(ready));
        }
        return new Ordered(done);
    }

    private static Map<ChannelId, List<ChannelId>> inputs(Session session) {
        Map<ChannelId, List<ChannelId>> inputs = new LinkedHashMap<>();
        session.channels().forEach(channel -> inputs.put(channel.id(), new ArrayList<>()));
        for (Channel channel : session.channels()) {
            for (ChannelId next : Connections.dependants(session, channel)) {
                inputs.computeIfAbsent(next, id -> new ArrayList<>()).add(channel.id());
            }
        }
        return inputs;
    }

    /** Every channel here waits for another one here, so walking up the inputs must come back to a channel seen. */
    private static Loop loopAmong(Map<ChannelId, List<ChannelId>> openInputs) {
        List<ChannelId> walked = new ArrayList<>();
        ChannelId at = openInputs.keySet().iterator().next();
        while (!walked.contains(at)) {
            walked.add(at);
            at = openInputs.getOrDefault(at, List.of()).getFirst();
        }
        List<ChannelId> loop = new ArrayList<>(walked.subList(walked.indexOf(at), walked.size()));
        loop.add(at);
        Collections.reverse(loop);
        return new Loop(loop);
    }
}
