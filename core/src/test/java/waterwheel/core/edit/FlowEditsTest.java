package waterwheel.core.edit;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatExceptionOfType;
import static org.assertj.core.api.Assertions.within;

import java.nio.file.Path;
import java.util.List;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.DisplayNameGeneration;
import org.junit.jupiter.api.DisplayNameGenerator;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;
import waterwheel.core.errors.RoutingException;
import waterwheel.core.inserts.Insert;
import waterwheel.core.inserts.SlotId;
import waterwheel.core.processing.Compressor;
import waterwheel.core.processing.Equaliser;
import waterwheel.core.routing.Faders;
import waterwheel.core.session.Bus;
import waterwheel.core.session.Channel;
import waterwheel.core.session.ChannelId;
import waterwheel.core.session.Output;
import waterwheel.core.session.Send;
import waterwheel.core.session.Session;
import waterwheel.core.session.Vca;
import waterwheel.core.testing.Sessions;
import waterwheel.core.testing.Signals;

@DisplayNameGeneration(DisplayNameGenerator.ReplaceUnderscores.class)
class FlowEditsTest {
    private static final ChannelId ONE = Sessions.id("one");
    private static final ChannelId TWO = Sessions.id("two");
    private static final ChannelId BUS = Sessions.id("bus");

    @TempDir
    Path folder;

    private Session session;

    @BeforeEach
    void two_tracks_and_a_bus() throws Exception {
        session = new Sessions(folder)
                .track("one", "bus", Signals.noise(0.1, 100, 1))
                .track("two", "main", Signals.noise(0.1, 100, 2))
                .bus("bus", "main")
                .build();
    }

    private void apply(Edit edit) {
        session = edit.apply(session);
    }

    private Channel channel(ChannelId id) {
        return session.channel(id);
    }

    @Test
    void inserts_are_added_ordered_changed_and_taken_out_with_their_keys() throws Exception {
        apply(FlowEdits.addInsert(channel(BUS), Equaliser.KIND));
        apply(FlowEdits.addInsert(channel(BUS), Compressor.KIND));
        SlotId compressor = channel(BUS).strip().inserts().getLast().id();
        apply(FlowEdits.addSend(session, channel(TWO), Send.toKey(BUS, compressor)));
        apply(FlowEdits.moveInsert(channel(BUS), compressor, -1));
        assertThat(channel(BUS).strip().inserts())
                .extracting(i -> i.processor().kind())
                .containsExactly(Compressor.KIND, Equaliser.KIND);
        apply(FlowEdits.insert(
                channel(BUS), compressor, i -> i.withProcessor(i.processor().with("ratio", 99))));
        Insert changed = channel(BUS).strip().inserts().getFirst();
        assertThat(changed.processor().value("ratio"))
                .as("held at the end of its range")
                .isEqualTo(20);
        apply(FlowEdits.removeInsert(channel(BUS), compressor));
        assertThat(channel(TWO).strip().sends()).isEmpty();
        assertThat(channel(BUS).strip().inserts()).hasSize(1);
    }

    @Test
    void a_send_that_closes_a_loop_is_refused_with_the_loop_in_words() throws Exception {
        apply(FlowEdits.addReturn("Hall"));
        Bus hall = session.buses().stream()
                .filter(b -> b.name().equals("Hall"))
                .findFirst()
                .orElseThrow();
        apply(FlowEdits.addSend(session, channel(BUS), Send.toBus(hall.id(), -10)));
        assertThatExceptionOfType(RoutingException.class)
                .isThrownBy(() -> FlowEdits.addSend(session, channel(hall.id()), Send.toBus(BUS, 0)))
                .withMessageContaining("bus → Hall → bus");
        assertThat(channel(BUS).strip().sends().getFirst().levelDb()).isEqualTo(-10);
        apply(FlowEdits.send(channel(BUS), 0, s -> s.withLevelDb(-3).withPreFader(true)));
        assertThat(channel(BUS).strip().sends().getFirst().preFader()).isTrue();
        apply(FlowEdits.removeSend(channel(BUS), 0));
        assertThat(channel(BUS).strip().sends()).isEmpty();
    }

    @Test
    void a_bus_is_put_around_channels_and_taken_away_again() {
        apply(FlowEdits.busAround(List.of(channel(ONE)), "bus"));
        Channel made = channel(((Output.ToBus) channel(ONE).strip().output()).bus());
        assertThat(made.name()).as("names stay unlike").isEqualTo("bus 2");
        assertThat(made.strip().output()).isEqualTo(Output.to(BUS));
        assertThat(session.channels().getLast().id()).isEqualTo(session.mainId());
        apply(FlowEdits.removeBus((Bus) made));
        assertThat(channel(ONE).strip().output()).isEqualTo(Output.to(BUS));
    }

    @Test
    void a_VCA_folds_into_its_members_and_every_effective_fader_stays() {
        apply(Edits.fader(channel(ONE), -2));
        apply(GroupEdits.addVca("All", List.of(ONE, BUS)));
        apply(GroupEdits.vca(session.vcas().getFirst(), v -> v.withFaderDb(-4.5)));
        double before = Faders.effectiveDb(session, channel(ONE));
        assertThat(before).isCloseTo(-6.5, within(1e-9));
        apply(GroupEdits.foldVca(session.vcas().getFirst()));
        assertThat(session.vcas().getFirst().faderDb()).isZero();
        assertThat(channel(ONE).strip().faderDb()).isCloseTo(-6.5, within(1e-9));
        assertThat(Faders.effectiveDb(session, channel(BUS))).isCloseTo(-4.5, within(1e-9));
        Vca vca = session.vcas().getFirst();
        apply(GroupEdits.removeVca(vca));
        assertThat(session.vcas()).isEmpty();
    }

    @ParameterizedTest
    @CsvSource({"10, 5, 3", "12, 1, 1", "-60, 12, 0", "11, 12, 11", "3, -Infinity, 0", "-Infinity, 4, 0", "9.5, 2.5, 0"
    })
    void what_a_fader_has_no_room_for_stays_in_the_VCA(double fader, double vca, double rest) {
        apply(Edits.fader(channel(ONE), fader));
        apply(GroupEdits.addVca("Inner", List.of(BUS)));
        ChannelId inner = session.vcas().getFirst().id();
        apply(GroupEdits.addVca("All", List.of(ONE, inner)));
        apply(GroupEdits.vca(session.vcas().getLast(), v -> v.withFaderDb(vca)));
        double one = Faders.effectiveDb(session, channel(ONE));
        double bus = Faders.effectiveDb(session, channel(BUS));
        apply(GroupEdits.foldVca(session.vcas().getLast()));
        assertThat(session.vcas().getLast().faderDb()).isCloseTo(rest, within(1e-9));
        assertThat(channel(ONE).strip().faderDb()).isLessThanOrEqualTo(12);
        assertSame(Faders.effectiveDb(session, channel(ONE)), one);
        assertSame(Faders.effectiveDb(session, channel(BUS)), bus);
    }

    private static void assertSame(double db, double before) {
        if (before == Double.NEGATIVE_INFINITY) {
            assertThat(db).isEqualTo(before);
        } else {
            assertThat(db).isCloseTo(before, within(1e-9));
        }
    }
}
