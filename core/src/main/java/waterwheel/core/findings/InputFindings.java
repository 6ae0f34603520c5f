package waterwheel.core.findings;

import java.util.Optional;
import java.util.OptionalDouble;
import java.util.Set;
import waterwheel.core.captures.PortUsers;
import waterwheel.core.edit.InputEdits;
import waterwheel.core.rack.Cable;
import waterwheel.core.rack.Driver;
import waterwheel.core.rack.PortSide;
import waterwheel.core.routing.Wiring;
import waterwheel.core.session.Feed;
import waterwheel.core.session.Listen;
import waterwheel.core.session.Session;
import waterwheel.core.session.Track;

/** Findings about inputs that are listened to. */
final class InputFindings {
    private final Session session;
    private final PortUsers users;
    private final FindingList found;

    InputFindings(Session session, FindingList found) {
        this.session = session;
        this.found = found;
        users = PortUsers.of(session);
    }

    void judge() {
        for (Track track : session.tracks()) {
            track.input().filter(input -> input.listen() != Listen.NEVER).ifPresent(input -> {
                judgeReturn(track, input);
                judgeHowling(track, input);
            });
        }
    }

    private void judgeReturn(Track track, Feed.Input input) {
        input.ports(track.planes())
                .mapToObj(port -> users.of(PortSide.INPUT, port).stream()
                        .filter(PortUsers.User.Slot.class::isInstance)
                        .findFirst())
                .flatMap(Optional::stream)
                .forEach(slot -> add(
                        Finding.Rule.RETURN_LISTENED_TO,
                        track,
                        track.name() + " listens to what comes back to " + slot.label(session)
                                + ": it is heard twice, and not in the same moment."));
    }

    /** On the simulated interface the cables are known; with real ones a check in Outboard finds out. */
    private void judgeHowling(Track track, Feed.Input input) {
        int monitor = 2 * session.rack().monitorPair() - 1;
        boolean heard = track.cue()
                || Wiring.heard(session).upstream(Set.of(session.mainId())).contains(track.id());
        if (session.rack().driver() != Driver.SIMULATED || !heard) {
            return;
        }
        for (Cable cable : session.rack().cables()) {
            int channels = cable.unit()
                    .flatMap(session.rack()::unit)
                    .map(unit -> unit.channels())
                    .orElse(1);
            for (int c = 0; c < channels; c++) {
                boolean leaves = cable.output() + c == monitor || cable.output() + c == monitor + 1;
                int port = cable.input() + c;
                if (leaves && input.ports(track.planes()).anyMatch(fed -> fed == port)) {
                    add(
                            Finding.Rule.LISTENING_HOWLS,
                            track,
                            track.name() + " listens to Input " + port + ", where the monitor's Output "
                                    + (cable.output() + c) + " comes back: it may howl.");
                    return;
                }
            }
        }
    }

    private void add(Finding.Rule rule, Track track, String sentence) {
        found.add(
                rule,
                track,
                sentence,
                "Do not listen to it, or choose another input.",
                OptionalDouble.empty(),
                InputEdits.listen(track, Listen.NEVER));
    }
}
