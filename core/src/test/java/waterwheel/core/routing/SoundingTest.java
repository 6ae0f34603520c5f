package waterwheel.core.routing;

import static org.assertj.core.api.Assertions.assertThat;

import java.util.ArrayList;
import java.util.HashSet;
import java.util.List;
import java.util.Optional;
import java.util.Set;
import java.util.SplittableRandom;
import net.jqwik.api.ForAll;
import net.jqwik.api.Property;
import org.junit.jupiter.api.Test;
import waterwheel.core.session.Bus;
import waterwheel.core.session.Channel;
import waterwheel.core.session.ChannelId;
import waterwheel.core.session.Feed;
import waterwheel.core.session.Output;
import waterwheel.core.session.PanLaw;
import waterwheel.core.session.Send;
import waterwheel.core.session.Session;
import waterwheel.core.session.Strip;
import waterwheel.core.session.Tap;
import waterwheel.core.session.Track;
import waterwheel.core.session.Vca;
import waterwheel.core.testing.Sessions;

/** What sounds, against the definition told again for small sessions, by every way one by one. */
class SoundingTest {
    private static final int TRACKS = 4;
    private static final int BUSES = 4;

    private static ChannelId track(int i) {
        return Sessions.id("t" + i);
    }

    private static ChannelId bus(int i) {
        return i == BUSES ? Sessions.MAIN : Sessions.id("b" + i);
    }

    /** A session whose buses feed later ones only, with sends that are on and off, taps, mutes, solos and VCAs. */
    private static Session random(long seed) {
        SplittableRandom random = new SplittableRandom(seed);
        List<Channel> channels = new ArrayList<>();
        for (int i = 0; i < TRACKS; i++) {
            Strip strip = switches(random, Strip.unity(Output.to(bus(random.nextInt(BUSES + 1)))))
                    .withSends(List.of(new Send(
                            new Send.ToBus(bus(random.nextInt(BUSES))),
                            0,
                            Optional.empty(),
                            random.nextBoolean(),
                            random.nextBoolean())));
            Track made = new Track(track(i), "t" + i, Track.Kind.SUSTAINED, 1, List.of(), strip);
            boolean taps = i > 0 && random.nextInt(3) == 0;
            channels.add(
                    taps
                            ? made.withFeed(new Feed.Tapped(new Tap(track(random.nextInt(i)), Tap.Point.PRE_FADER)))
                            : made);
        }
        for (int i = 0; i < BUSES; i++) {
            Strip strip = switches(random, Strip.unity(Output.to(bus(i + 1 + random.nextInt(BUSES - i)))));
            channels.add(new Bus(bus(i), "b" + i, strip));
        }
        channels.add(new Bus(Sessions.MAIN, "Main", Strip.unity(new Output.Nowhere())));
        List<Vca> vcas = List.of(
                new Vca(Sessions.id("v0"), "v0", 0, random.nextInt(4) == 0, List.of(track(0), bus(1)), List.of()),
                new Vca(
                        Sessions.id("v1"),
                        "v1",
                        0,
                        random.nextInt(4) == 0,
                        List.of(Sessions.id("v0"), track(1)),
                        random.nextBoolean() ? List.of(track(0)) : List.of()));
        return new Session("Test", 48_000, PanLaw.MINUS_3, -18, List.of(), channels, Sessions.MAIN, List.of())
                .withVcas(vcas);
    }

    private static Strip switches(SplittableRandom random, Strip strip) {
        return strip.withMuted(random.nextInt(6) == 0)
                .withSoloed(random.nextInt(6) == 0)
                .withSoloSafe(random.nextInt(5) == 0);
    }

    /** Whether one channel can be heard in another over connections that are on. */
    private static boolean feeds(Session session, ChannelId from, ChannelId to) {
        Set<ChannelId> next = new HashSet<>(Connections.outputs(session.channel(from)));
        for (Send send : session.channel(from).strip().sends()) {
            if (send.on()) {
                next.add(send.target().channel());
            }
        }
        for (Track track : session.tracks()) {
            if (track.tap().map(tap -> tap.channel().equals(from)).orElse(false)) {
                next.add(track.id());
            }
        }
        return next.contains(to) || next.stream().anyMatch(id -> feeds(session, id, to));
    }

    private static boolean mutedByVca(Session session, ChannelId id, ChannelId member) {
        return session.vcas().stream()
                .filter(vca -> vca.moves(member))
                .anyMatch(vca -> (vca.muted() && !vca.exempt().contains(id)) || mutedByVca(session, id, vca.id()));
    }

    @Property(tries = 400)
    void a_channel_sounds_as_the_definition_says(@ForAll long seed) {
        Session session = random(seed);
        List<ChannelId> soloed = session.channels().stream()
                .filter(c -> c.strip().soloed())
                .map(Channel::id)
                .toList();
        Set<ChannelId> expected = new HashSet<>();
        for (Channel channel : session.channels()) {
            ChannelId id = channel.id();
            boolean lit = soloed.isEmpty()
                    || channel.strip().soloed()
                    || channel.strip().soloSafe()
                    || soloed.stream().anyMatch(solo -> feeds(session, id, solo) || feeds(session, solo, id));
            if (lit && !channel.strip().muted() && !mutedByVca(session, id, id)) {
                expected.add(id);
            }
        }
        assertThat(Audibility.sounding(session)).isEqualTo(expected);
    }

    @Test
    void a_solo_safe_return_is_heard_with_what_is_soloed_of_it_alone() {
        ChannelId a = Sessions.id("a");
        ChannelId b = Sessions.id("b");
        ChannelId back = Sessions.id("return");
        Strip strip = Strip.unity(Output.to(Sessions.MAIN)).withSends(List.of(Send.toBus(back, 0)));
        Session session = new Session(
                "Test",
                48_000,
                PanLaw.MINUS_3,
                -18,
                List.of(),
                List.of(
                        new Track(a, "a", Track.Kind.SUSTAINED, 1, List.of(), strip.withSoloed(true)),
                        new Track(b, "b", Track.Kind.SUSTAINED, 1, List.of(), strip),
                        new Bus(
                                back,
                                "return",
                                Strip.unity(Output.to(Sessions.MAIN)).withSoloSafe(true)),
                        new Bus(Sessions.MAIN, "Main", Strip.unity(new Output.Nowhere()))),
                Sessions.MAIN,
                List.of());
        assertThat(Audibility.sounding(session)).containsExactlyInAnyOrder(a, back, Sessions.MAIN);
        Session off = session.withStrip(
                a, s -> s.withSends(List.of(s.sends().getFirst().withOn(false))).withSoloed(false));
        Session soloedReturn = off.withStrip(back, s -> s.withSoloed(true).withSoloSafe(false));
        assertThat(Audibility.sounding(soloedReturn)).containsExactlyInAnyOrder(b, back, Sessions.MAIN);
    }
}
