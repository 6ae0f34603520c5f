package waterwheel.core.routing;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.within;

import java.nio.file.Path;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Set;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.DisplayNameGeneration;
import org.junit.jupiter.api.DisplayNameGenerator;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import waterwheel.core.levels.PeakShares;
import waterwheel.core.levels.SessionMeasurement;
import waterwheel.core.session.ChannelId;
import waterwheel.core.session.Output;
import waterwheel.core.session.Send;
import waterwheel.core.session.Session;
import waterwheel.core.testing.Sessions;
import waterwheel.core.testing.Signals;
import waterwheel.core.work.Progress;

@DisplayNameGeneration(DisplayNameGenerator.ReplaceUnderscores.class)
class FlowMapTest {
    private static final ChannelId DRUMS = Sessions.id("drums");
    private static final ChannelId BAND = Sessions.id("band");
    private static final ChannelId HALL = Sessions.id("hall");

    @TempDir
    Path folder;

    private Session session;

    @BeforeEach
    void drums_in_the_band_and_a_voice_with_a_hall() throws Exception {
        float[] one = new float[1_000];
        float[] two = new float[1_000];
        one[400] = 0.5f;
        two[400] = -0.2f;
        two[700] = 0.25f;
        session = new Sessions(folder)
                .track("kick", "drums", one, one)
                .track("voice", "band", Signals.noise(0.001, 1_000, 3))
                .track("snare", "drums", two, two)
                .bus("drums", "band")
                .bus("band", "main")
                .bus("hall", "main")
                .build()
                .withStrip(Sessions.id("voice"), s -> s.withSends(List.of(Send.toBus(HALL, -6))));
    }

    private static Map<ChannelId, FlowMap.Card> cards(FlowMap map) {
        Map<ChannelId, FlowMap.Card> found = new HashMap<>();
        map.cards().forEach(card -> found.put(card.id(), card));
        return found;
    }

    @Test
    void a_bus_stands_one_column_behind_its_inputs_and_amid_them() {
        FlowMap map = FlowMap.of(session, Set.of(), "");
        Map<ChannelId, FlowMap.Card> cards = cards(map);
        assertThat(cards.get(DRUMS)).isNotNull();
        assertThat(map.columns()).isEqualTo(4);
        assertThat(map.cards()).filteredOn(c -> c.id().equals(DRUMS)).first().satisfies(drums -> {
            assertThat(drums.column()).isEqualTo(1);
            assertThat(drums.row()).isCloseTo(0.5, within(1e-9));
        });
        assertThat(map.cards())
                .filteredOn(c -> c.id().equals(BAND))
                .first()
                .extracting(FlowMap.Card::column)
                .isEqualTo(2);
        assertThat(map.cards())
                .filteredOn(c -> c.id().equals(Sessions.MAIN))
                .first()
                .extracting(FlowMap.Card::column)
                .isEqualTo(3);
        assertThat(map.links())
                .contains(new FlowMap.Link(Sessions.id("voice"), HALL, FlowMap.Kind.SEND, false))
                .contains(new FlowMap.Link(DRUMS, BAND, FlowMap.Kind.OUTPUT, false));
    }

    @Test
    void no_two_cards_of_a_column_overlap() {
        FlowMap map = FlowMap.of(session, Set.of(), "");
        for (FlowMap.Card a : map.cards()) {
            for (FlowMap.Card b : map.cards()) {
                if (!a.equals(b) && a.column() == b.column()) {
                    assertThat(Math.abs(a.row() - b.row())).isGreaterThanOrEqualTo(1);
                }
            }
        }
    }

    @Test
    void folded_tracks_are_one_card_and_a_filter_leaves_what_it_names() {
        FlowMap folded = FlowMap.of(session, Set.of(DRUMS), "");
        assertThat(folded.cards()).anySatisfy(card -> {
            assertThat(card.folded()).isEqualTo(2);
            assertThat(card.id()).isEqualTo(DRUMS);
        });
        assertThat(folded.cards()).noneMatch(card -> card.id().equals(Sessions.id("kick")));
        assertThat(FlowMap.of(session, Set.of(), "SNA").cards())
                .filteredOn(card -> card.column() == 0)
                .extracting(FlowMap.Card::id)
                .containsExactly(Sessions.id("snare"));
    }

    @Test
    void a_small_edit_does_not_reshuffle_the_map() {
        FlowMap before = FlowMap.of(session, Set.of(), "");
        Session edited = session.withStrip(Sessions.id("snare"), s -> s.withOutput(Output.to(BAND)));
        FlowMap after = FlowMap.of(edited, Set.of(), "");
        assertThat(cards(after).keySet()).isEqualTo(cards(before).keySet());
        assertThat(after.cards())
                .filteredOn(c -> c.id().equals(Sessions.id("kick")))
                .first()
                .isEqualTo(before.cards().stream()
                        .filter(c -> c.id().equals(Sessions.id("kick")))
                        .findFirst()
                        .orElseThrow());
    }

    @Test
    void what_reaches_a_channel_and_what_it_reaches_is_traced() {
        assertThat(Trace.up(session, BAND))
                .containsExactlyInAnyOrder(
                        BAND, DRUMS, Sessions.id("kick"), Sessions.id("snare"), Sessions.id("voice"));
        assertThat(Trace.down(session, Sessions.id("voice")))
                .containsExactlyInAnyOrder(Sessions.id("voice"), BAND, HALL, Sessions.MAIN);
    }

    @Test
    void who_fills_a_peak_is_told_with_signs_and_adds_up() {
        PeakShares shares = SessionMeasurement.of(
                        session, folder, song -> song.peakShares(session, DRUMS, Progress.NONE))
                .orElseThrow();
        // At frame 400: 0.5 - 0.2; at 700 only 0.25.
        assertThat(shares.atSeconds()).isCloseTo(400 / 48_000.0, within(1e-9));
        assertThat(shares.peak()).isCloseTo(0.3, within(1e-6));
        assertThat(shares.shares())
                .extracting(PeakShares.Share::from)
                .containsExactly(Sessions.id("kick"), Sessions.id("snare"));
        assertThat(shares.shares().getFirst().value()).isCloseTo(0.5, within(1e-6));
        assertThat(shares.shares().getLast().value()).isCloseTo(-0.2, within(1e-6));
    }
}
