package waterwheel.core.captures;

import java.util.ArrayList;
import java.util.Comparator;
import java.util.List;
import java.util.Map;
import java.util.TreeMap;
import java.util.stream.IntStream;
import waterwheel.core.rack.Loop;
import waterwheel.core.rack.Port;
import waterwheel.core.rack.PortSide;
import waterwheel.core.session.Channel;
import waterwheel.core.session.Output;
import waterwheel.core.session.Session;
import waterwheel.core.session.Track;

/** What uses the ports of the interface. */
public final class PortUsers {
    private static final Comparator<Port> BY_PLACE =
            Comparator.comparing(Port::side).thenComparingInt(Port::number);

    private final Session session;
    private final Map<Port, List<User>> users = new TreeMap<>(BY_PLACE);

    /** What is at a port. */
    public sealed interface User {
        /** A slot that leaves or comes back by it. */
        record Slot(HardwareSlot slot) implements User {}

        /** A channel whose output it is. */
        record Pair(Channel channel) implements User {}

        /** A track that an input feeds. */
        record Fed(Track track) implements User {}

        /** The mix, to be heard. */
        record Monitor() implements User {}

        /** A few words on screen. */
        default String label(Session session) {
            return switch (this) {
                case Slot(HardwareSlot slot) -> session.channel(slot.channel()).name();
                case Pair(Channel channel) -> channel.name();
                case Fed(Track track) -> track.name();
                case Monitor() -> "monitor";
            };
        }
    }

    private PortUsers(Session session) {
        this.session = session;
    }

    /** Looks at all ports that a session uses. */
    public static PortUsers of(Session session) {
        PortUsers all = new PortUsers(session);
        for (HardwareSlot slot : HardwareSlot.of(session)) {
            Loop loop = slot.insert(session).processor().loop();
            int planes = session.channel(slot.channel()).planes();
            all.add(PortSide.OUTPUT, loop.sends(planes), new User.Slot(slot));
            all.add(PortSide.INPUT, loop.returns(planes), new User.Slot(slot));
        }
        for (Track track : session.tracks()) {
            track.input().ifPresent(input -> all.add(PortSide.INPUT, input.ports(track.planes()), new User.Fed(track)));
        }
        all.add(session.rack().monitorPair(), new User.Monitor());
        for (Channel channel : session.channels()) {
            if (channel.strip().output() instanceof Output.ToInterface(int pair)) {
                all.add(pair, new User.Pair(channel));
            }
        }
        return all;
    }

    private void add(int pair, User user) {
        add(PortSide.OUTPUT, IntStream.rangeClosed(2 * pair - 1, 2 * pair), user);
    }

    private void add(PortSide side, IntStream ports, User user) {
        ports.forEach(number -> users.computeIfAbsent(session.rack().port(side, number), port -> new ArrayList<>())
                .add(user));
    }

    /** Those that must have a port for themselves: tracks may share an input with each other and with a loop. */
    public List<User> rivals(PortSide side, int number) {
        return of(side, number).stream()
                .filter(user -> !(user instanceof User.Fed))
                .toList();
    }

    /** The users of a port; none for one that is free. */
    public List<User> of(PortSide side, int number) {
        return List.copyOf(users.getOrDefault(session.rack().port(side, number), List.of()));
    }

    /** The last port of a side that is used; 0 where none is. */
    public int last(PortSide side) {
        return used().stream()
                .filter(port -> port.side() == side)
                .mapToInt(Port::number)
                .max()
                .orElse(0);
    }

    /** The ports that are used, the inputs first, by number. */
    public List<Port> used() {
        return List.copyOf(users.keySet());
    }
}
