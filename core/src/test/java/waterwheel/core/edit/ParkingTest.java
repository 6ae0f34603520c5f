package waterwheel.core.edit;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatExceptionOfType;
import static org.assertj.core.api.Assertions.assertThatIllegalArgumentException;

import java.nio.file.Path;
import java.util.List;
import java.util.stream.Stream;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.DisplayNameGeneration;
import org.junit.jupiter.api.DisplayNameGenerator;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import waterwheel.core.errors.RoutingException;
import waterwheel.core.session.Bond;
import waterwheel.core.session.ChannelId;
import waterwheel.core.session.LinkGroup;
import waterwheel.core.session.Output;
import waterwheel.core.session.Parked;
import waterwheel.core.session.Send;
import waterwheel.core.session.Session;
import waterwheel.core.session.Strip;
import waterwheel.core.session.Track;
import waterwheel.core.session.Vca;
import waterwheel.core.testing.Sessions;
import waterwheel.core.testing.Signals;

/** One channel in another's place, and back. */
@DisplayNameGeneration(DisplayNameGenerator.ReplaceUnderscores.class)
class ParkingTest {
    private static final ChannelId ONE = Sessions.id("one");
    private static final ChannelId SUB = Sessions.id("sub");
    private static final ChannelId BUS = Sessions.id("bus");

    @TempDir
    Path folder;

    @SuppressWarnings("NullAway.Init")
    private Session session;

    /** A track into a bus into a bus; a second one there that is also sent elsewhere; both in groups. */
    @BeforeEach
    void nested_buses() throws Exception {
        session = new Sessions(folder)
                .track("one", "sub", Signals.noise(0.1, 100, 1))
                .track("two", "bus", Signals.noise(0.1, 100, 2))
                .bus("sub", "bus")
                .bus("bus", "main")
                .bus("return", "main")
                .build()
                .withStrip(Sessions.id("two"), s -> s.withSends(List.of(Send.toBus(Sessions.id("return"), -6))))
                .withVcas(List.of(
                        new Vca(Sessions.id("v"), "V", -3, false, List.of(ONE, BUS), List.of(BUS)),
                        new Vca(Sessions.id("w"), "W", 0, false, List.of(SUB), List.of())))
                .withLinks(List.of(LinkGroup.of(Sessions.id("l"), "L", List.of(ONE, SUB))));
    }

    private static Track standIn(ChannelId id) {
        return new Track(id, "print", Track.Kind.SUSTAINED, 2, List.of(), Strip.unity(Output.to(Sessions.MAIN)));
    }

    @Test
    void a_bus_takes_along_what_is_heard_nowhere_else_whatever_its_depth() {
        Session after = Parking.replaced(session, standIn(BUS));
        assertThat(after.channels()).extracting(c -> c.id().value()).containsExactly("two", "bus", "return", "main");
        Parked parked = after.parked().getFirst();
        assertThat(parked.along()).extracting(a -> a.channel().id()).containsExactly(ONE, SUB);
        // They keep their own ends; groups forget them, and know the bus.
        assertThat(parked.along().getFirst().channel().strip().output()).isEqualTo(Output.to(SUB));
        assertThat(after.vcas().getFirst().members()).containsExactly(BUS);
        assertThat(after.links().getFirst().members()).isEmpty();
        assertThat(after.channel(Sessions.id("two")).strip().output()).isEqualTo(new Output.Nowhere());
        Session back = bringBack(after);
        assertThat(back.channels()).isEqualTo(session.channels());
        assertThat(back.vcas().getFirst().members()).containsExactlyInAnyOrder(ONE, BUS);
        assertThat(back.vcas().getFirst().exempt()).containsExactly(BUS);
        assertThat(back.vcas().get(1).members()).containsExactly(SUB);
        assertThat(back.links().getFirst().members()).containsExactlyInAnyOrder(ONE, SUB);
    }

    private static Session bringBack(Session after) {
        try {
            return Parking.bringBack(after, after.parked().getFirst()).apply(after);
        } catch (RoutingException e) {
            throw new IllegalStateException(e);
        }
    }

    @Test
    void groups_that_a_stand_in_left_are_its_sources_again() {
        Session without = Groups.withoutVcas(Parking.replaced(session, standIn(ONE)), ONE);
        assertThat(Groups.of(without, ONE)).extracting(Bond.Member::group).containsExactly(Sessions.id("l"));
        Session back = bringBack(without);
        assertThat(Groups.of(back, ONE))
                .extracting(Bond.Member::group)
                .containsExactly(Sessions.id("v"), Sessions.id("l"));
        Session again = bringBack(back);
        assertThat(Groups.of(again, ONE)).extracting(Bond.Member::group).containsExactly(Sessions.id("l"));
    }

    @Test
    void what_would_close_a_loop_does_not_come_back() {
        Session after = Parking.replaced(session, standIn(BUS));
        // Meanwhile the return feeds the track that the bus feeds again once it is back.
        Session routed = after.withStrip(Sessions.id("return"), s -> s.withOutput(Output.to(Sessions.MAIN)));
        assertThat(bringBack(routed).channels()).isEqualTo(session.channels());
        Session looped = session.withStrip(BUS, s -> s.withSends(List.of(Send.toBus(Sessions.id("return"), 0))));
        Session parked = Parking.replaced(looped, standIn(SUB));
        Session closed = parked.withStrip(SUB, s -> s.withSends(List.of()));
        assertThat(bringBack(closed).channel(SUB)).isEqualTo(looped.channel(SUB));
        Session bus = Parking.replaced(looped, standIn(BUS));
        Session around = bus.withStrip(Sessions.id("return"), s -> s.withOutput(new Output.Nowhere()));
        Parked entry = new Parked(
                around.parked().getFirst().channel(),
                around.parked().getFirst().along(),
                List.of(new Bond.Fed(Sessions.id("return"), BUS)));
        Session wrong = around.withParked(List.of(entry));
        assertThatExceptionOfType(RoutingException.class)
                .isThrownBy(() -> Parking.bringBack(wrong, entry))
                .withMessageContaining("Bringing back 'bus' would close a loop");
    }

    @Test
    void a_session_does_not_lose_what_is_parked() {
        Session after = Parking.replaced(session, standIn(BUS));
        assertThatIllegalArgumentException().isThrownBy(() -> after.withSources(List.of()));
        // Its id is not given to another.
        assertThatIllegalArgumentException()
                .isThrownBy(() -> after.withChannels(Stream.concat(after.channels().stream(), Stream.of(standIn(ONE)))
                        .toList()));
        assertThat(FlowEdits.freeId(after, "on")).isNotEqualTo(ONE);
        assertThat(after.everyChannel()).hasSize(7);
        assertThat(Parking.letGo(after.parked().getFirst()).apply(after).parked())
                .isEmpty();
    }
}
