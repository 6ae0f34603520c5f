package waterwheel.core.routing;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.within;

import java.util.ArrayList;
import java.util.HashSet;
import java.util.List;
import java.util.Set;
import java.util.SplittableRandom;
import net.jqwik.api.ForAll;
import net.jqwik.api.Property;
import waterwheel.core.edit.GroupEdits;
import waterwheel.core.session.Bus;
import waterwheel.core.session.Channel;
import waterwheel.core.session.ChannelId;
import waterwheel.core.session.Output;
import waterwheel.core.session.PanLaw;
import waterwheel.core.session.Session;
import waterwheel.core.session.Strip;
import waterwheel.core.session.Track;
import waterwheel.core.session.Vca;
import waterwheel.core.testing.Sessions;

/** Faders under VCAs that nest, meet again and leave members alone, against the definition. */
class FadersTest {
    private static final int TRACKS = 4;
    private static final int VCAS = 5;

    private static Session random(long seed) {
        SplittableRandom random = new SplittableRandom(seed);
        List<Channel> channels = new ArrayList<>();
        List<ChannelId> below = new ArrayList<>();
        for (int i = 0; i < TRACKS; i++) {
            Strip strip = Strip.unity(Output.to(Sessions.MAIN)).withFaderDb(-random.nextInt(20));
            channels.add(new Track(Sessions.id("t" + i), "t" + i, Track.Kind.SUSTAINED, 1, List.of(), strip));
            below.add(Sessions.id("t" + i));
        }
        channels.add(new Bus(Sessions.MAIN, "Main", Strip.unity(new Output.Nowhere())));
        List<Vca> vcas = new ArrayList<>();
        for (int i = 0; i < VCAS; i++) {
            List<ChannelId> members =
                    below.stream().filter(id -> random.nextInt(3) == 0).toList();
            List<ChannelId> exempt =
                    members.stream().filter(id -> random.nextInt(5) == 0).toList();
            ChannelId id = Sessions.id("v" + i);
            vcas.add(new Vca(id, "v" + i, random.nextInt(-12, 4), random.nextInt(6) == 0, members, exempt));
            below.add(id);
        }
        return new Session("Test", 48_000, PanLaw.MINUS_3, -18, List.of(), channels, Sessions.MAIN, List.of())
                .withVcas(vcas);
    }

    /** Whether some way leads from a VCA down to a channel; a channel left alone is still a member. */
    private static boolean leads(Session session, Vca vca, ChannelId channel) {
        return vca.members().contains(channel)
                || session.vcas().stream().anyMatch(below -> vca.moves(below.id()) && leads(session, below, channel));
    }

    private static Set<Vca> above(Session session, ChannelId channel) {
        Set<Vca> above = new HashSet<>();
        for (Vca vca : session.vcas()) {
            if (leads(session, vca, channel) && !vca.exempt().contains(channel)) {
                above.add(vca);
            }
        }
        return above;
    }

    @Property(tries = 400)
    void every_VCA_above_a_channel_counts_once(@ForAll long seed) {
        Session session = random(seed);
        Faders faders = Faders.of(session);
        for (Track track : session.tracks()) {
            Set<Vca> above = above(session, track.id());
            double expected = track.strip().faderDb()
                    + above.stream().mapToDouble(Vca::faderDb).sum();
            assertThat(faders.effectiveDb(track)).isCloseTo(expected, within(1e-9));
            assertThat(faders.muted(track)).isEqualTo(above.stream().anyMatch(Vca::muted));
            for (Vca vca : session.vcas()) {
                assertThat(faders.movedBy(vca).contains(track.id()))
                        .as("%s moves %s", vca, track.id())
                        .isEqualTo(above.contains(vca));
            }
        }
    }

    @Property(tries = 400)
    void folding_a_VCA_into_its_members_moves_nothing(@ForAll long seed) {
        Session session = random(seed);
        Vca vca = session.vcas().get((int) Math.floorMod(seed, (long) VCAS));
        Session folded = GroupEdits.foldVca(vca).apply(session);
        for (Track track : session.tracks()) {
            assertThat(Faders.effectiveDb(folded, folded.channel(track.id())))
                    .as("%s under %s", track.name(), vca)
                    .isCloseTo(Faders.effectiveDb(session, track), within(0.01));
        }
        assertThat(Audibility.sounding(folded)).isEqualTo(Audibility.sounding(session));
    }
}
