package waterwheel.core.routing;

import java.util.ArrayList;
import java.util.Collections;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Objects;
import java.util.Set;
import waterwheel.core.session.Channel;
import waterwheel.core.session.ChannelId;
import waterwheel.core.session.Session;
import waterwheel.core.units.PlainText;

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
        private static final int ENDS_TOLD = 4;
        private static final int MOST_OF_A_NAME = 40;

        public Loop {
            path = List.copyOf(path);
        }

        /** The loop in words, by the channels' names; of a long one its beginning and its end. */
        public String inWords(Session session) {
            List<String> names = new ArrayList<>();
            for (int i = 0; i < path.size(); i++) {
                boolean told = i < ENDS_TOLD || i >= path.size() - ENDS_TOLD;
                if (told) {
                    names.add(PlainText.of(session.channel(path.get(i)).name(), MOST_OF_A_NAME));
                } else if (i == ENDS_TOLD) {
                    names.add(path.size() - 2 * ENDS_TOLD + " more");
                }
            }
            return String.join(" → ", names);
        }
    }

    /**
     * Orders a session's channels (Kahn 1962, Topological sorting of large networks). Time grows with the number of
     * connections.
     */
    static RenderOrder of(Session session) {
        Wiring wiring = Wiring.computed(session);
        Map<ChannelId, Integer> waiting = new LinkedHashMap<>();
        List<ChannelId> ready = new ArrayList<>();
        for (Channel channel : session.channels()) {
            int inputs = wiring.before(channel.id()).size();
            waiting.put(channel.id(), inputs);
            if (inputs == 0) {
                ready.add(channel.id());
            }
        }
        List<ChannelId> done = new ArrayList<>();
        while (!ready.isEmpty()) {
            List<ChannelId> next = new ArrayList<>();
            for (ChannelId id : ready) {
                waiting.remove(id);
                done.add(id);
                for (ChannelId after : wiring.after(id)) {
                    if (Objects.equals(waiting.merge(after, -1, Integer::sum), 0)) {
                        next.add(after);
                    }
                }
            }
            ready = next;
        }
        return waiting.isEmpty() ? new Ordered(done) : loopAmong(waiting.keySet(), wiring);
    }

    /** Every channel here waits for another one here, so walking up the inputs must come back to a channel seen. */
    private static Loop loopAmong(Set<ChannelId> waiting, Wiring wiring) {
        Map<ChannelId, Integer> places = new LinkedHashMap<>();
        List<ChannelId> walked = new ArrayList<>();
        ChannelId at = waiting.iterator().next();
        while (places.putIfAbsent(at, walked.size()) == null) {
            walked.add(at);
            at = wiring.before(at).stream()
                    .filter(waiting::contains)
                    .findFirst()
                    .orElseThrow();
        }
        List<ChannelId> loop = new ArrayList<>(walked.subList(places.getOrDefault(at, 0), walked.size()));
        loop.add(at);
        Collections.reverse(loop);
        return new Loop(loop);
    }
}
