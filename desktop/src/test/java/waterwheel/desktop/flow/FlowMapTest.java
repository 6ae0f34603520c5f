package waterwheel.desktop.flow;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.within;

import java.util.ArrayList;
import java.util.Comparator;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Random;
import java.util.Set;
import java.util.function.UnaryOperator;
import java.util.stream.IntStream;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.DisplayNameGeneration;
import org.junit.jupiter.api.DisplayNameGenerator;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.ValueSource;
import waterwheel.core.edit.FlowEdits;
import waterwheel.core.routing.RenderOrder;
import waterwheel.core.session.Bus;
import waterwheel.core.session.Channel;
import waterwheel.core.session.ChannelId;
import waterwheel.core.session.Output;
import waterwheel.core.session.PanLaw;
import waterwheel.core.session.Send;
import waterwheel.core.session.Session;
import waterwheel.core.session.Strip;
import waterwheel.core.session.Track;

@DisplayNameGeneration(DisplayNameGenerator.ReplaceUnderscores.class)
class FlowMapTest {
    private static final ChannelId MAIN = id("main");
    private static final ChannelId DRUMS = id("drums");
    private static final ChannelId BAND = id("band");
    private static final ChannelId HALL = id("hall");

    private Session session;

    @BeforeEach
    void drums_in_the_band_and_a_voice_with_a_hall() throws Exception {
        session = new Sketch()
                .track("kick", "drums", 2)
                .track("voice", "band", 1)
                .track("snare", "drums", 2)
                .bus("drums", "band")
                .bus("band", "main")
                .bus("hall", "main")
                .build()
                .withStrip(id("voice"), s -> s.withSends(List.of(Send.toBus(HALL, -6))));
    }

    /** A session without sound. */
    private static final class Sketch {
        private final List<Channel> channels = new ArrayList<>();

        Sketch track(String id, String output, int planes) {
            Strip strip = Strip.unity(Output.to(id(output)));
            channels.add(new Track(id(id), id, Track.Kind.SUSTAINED, planes, List.of(), strip));
            return this;
        }

        Sketch bus(String id, String output) {
            channels.add(new Bus(id(id), id, Strip.unity(Output.to(id(output)))));
            return this;
        }

        Session build() {
            channels.add(new Bus(MAIN, "Main", Strip.unity(new Output.Nowhere())));
            return new Session("Map", 48_000, PanLaw.MINUS_3, -18, List.of(), channels, MAIN, List.of());
        }
    }

    private static ChannelId id(String value) {
        return new ChannelId(value);
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
                .filteredOn(c -> c.id().equals(MAIN))
                .first()
                .extracting(FlowMap.Card::column)
                .isEqualTo(3);
        assertThat(map.links())
                .contains(new FlowMap.Link(id("voice"), HALL, FlowMap.Kind.SEND, false))
                .contains(new FlowMap.Link(DRUMS, BAND, FlowMap.Kind.OUTPUT, false));
    }

    /** What takes room in a column, from its upper to its lower edge. */
    private record Taken(int column, double top, double bottom) {}

    private static List<Taken> taken(FlowMap map) {
        List<Taken> all = new ArrayList<>();
        for (FlowMap.Card card : map.cards()) {
            double half = card.column() == 0 && card.folded() == 0 ? 0.5 : 1;
            all.add(new Taken(card.column(), card.row() - half, card.row() + half));
        }
        map.lanes().forEach(lane -> all.add(new Taken(lane.column(), lane.row() - 0.5, lane.row() + 0.5)));
        return all;
    }

    @ParameterizedTest
    @ValueSource(longs = {0, 1, 2, 3, 4, 5, 6, 7, 8, 9, 10, 11})
    void whatever_the_routing_no_card_or_passing_link_covers_another(long seed) throws Exception {
        FlowMap map = FlowMap.of(routedAtRandom(seed), seed % 3 == 0 ? Set.of(DRUMS, BAND) : Set.of(), "");
        List<Taken> all = taken(map);
        all.sort(Comparator.comparingInt(Taken::column).thenComparingDouble(Taken::top));
        for (int i = 0; i < all.size(); i++) {
            Taken one = all.get(i);
            assertThat(one.top()).isGreaterThanOrEqualTo(-0.5);
            assertThat(one.bottom()).isLessThanOrEqualTo(map.rows() - 0.5 + 1e-9);
            if (i > 0 && all.get(i - 1).column() == one.column()) {
                assertThat(one.top()).isGreaterThanOrEqualTo(all.get(i - 1).bottom() - 1e-9);
            }
        }
        for (FlowMap.Link link : map.links()) {
            int from = column(map, link.from(), link.folded());
            int to = column(map, link.to(), false);
            assertThat(map.lanes(link))
                    .as("%s", link)
                    .extracting(FlowMap.Lane::column)
                    .containsExactlyElementsOf(IntStream.range(from + 1, Math.max(from + 1, to))
                            .boxed()
                            .toList());
        }
    }

    private static int column(FlowMap map, ChannelId id, boolean folded) {
        return map.cards().stream()
                .filter(card -> card.id().equals(id) && card.folded() > 0 == folded)
                .findFirst()
                .orElseThrow()
                .column();
    }

    /** Twelve buses and the tracks, each feeding and sending to any bus where that closes no loop. */
    private Session routedAtRandom(long seed) throws Exception {
        Random random = new Random(seed);
        Session routed = session;
        for (int i = 0; i < 9; i++) {
            routed = FlowEdits.addReturn("Bus").apply(routed);
        }
        for (Channel channel : routed.channels()) {
            List<ChannelId> buses = routed.buses().stream().map(Bus::id).toList();
            for (int tries = 0; tries < 3 && !channel.id().equals(routed.mainId()); tries++) {
                ChannelId to = buses.get(random.nextInt(buses.size()));
                Session changed = routed.withStrip(channel.id(), tries(random, to));
                if (!to.equals(channel.id()) && RenderOrder.of(changed) instanceof RenderOrder.Ordered) {
                    routed = changed;
                }
            }
        }
        return routed;
    }

    private static UnaryOperator<Strip> tries(Random random, ChannelId to) {
        return random.nextBoolean()
                ? strip -> strip.withOutput(Output.to(to))
                : strip -> strip.withSends(List.of(Send.toBus(to, -6)));
    }

    @Test
    void a_link_past_a_column_has_a_lane_as_high_as_where_it_begins() {
        FlowMap map = FlowMap.of(session, Set.of(), "");
        // The voice feeds the band in the second column past that of the drums.
        FlowMap.Link voice = new FlowMap.Link(id("voice"), BAND, FlowMap.Kind.OUTPUT, false);
        assertThat(map.links()).contains(voice);
        assertThat(map.lanes(voice)).singleElement().satisfies(lane -> {
            assertThat(lane.column()).isEqualTo(1);
            assertThat(lane.row()).isCloseTo(2, within(2.0));
        });
        assertThat(map.lanes(new FlowMap.Link(DRUMS, BAND, FlowMap.Kind.OUTPUT, false)))
                .isEmpty();
    }

    @Test
    void sends_of_folded_tracks_to_one_return_are_one_link() {
        Session sending = session.withStrip(id("kick"), s -> s.withSends(List.of(Send.toBus(HALL, -6))))
                .withStrip(id("snare"), s -> s.withSends(List.of(Send.toBus(HALL, -9))));
        assertThat(FlowMap.of(sending, Set.of(DRUMS), "").links())
                .filteredOn(link -> link.to().equals(HALL) && link.from().equals(DRUMS))
                .containsExactly(new FlowMap.Link(DRUMS, HALL, FlowMap.Kind.SEND, true));
    }

    @Test
    void folded_tracks_are_one_card_and_a_filter_leaves_what_it_names() {
        FlowMap folded = FlowMap.of(session, Set.of(DRUMS), "");
        assertThat(folded.cards()).anySatisfy(card -> {
            assertThat(card.folded()).isEqualTo(2);
            assertThat(card.id()).isEqualTo(DRUMS);
        });
        assertThat(folded.cards()).noneMatch(card -> card.id().equals(id("kick")));
        assertThat(FlowMap.of(session, Set.of(), "SNA").cards())
                .filteredOn(card -> card.column() == 0)
                .extracting(FlowMap.Card::id)
                .containsExactly(id("snare"));
    }

    @Test
    void a_small_edit_does_not_reshuffle_the_map() {
        FlowMap before = FlowMap.of(session, Set.of(), "");
        Session edited = session.withStrip(id("snare"), s -> s.withOutput(Output.to(BAND)));
        FlowMap after = FlowMap.of(edited, Set.of(), "");
        assertThat(cards(after).keySet()).isEqualTo(cards(before).keySet());
        assertThat(after.cards())
                .filteredOn(c -> c.id().equals(id("kick")))
                .first()
                .isEqualTo(before.cards().stream()
                        .filter(c -> c.id().equals(id("kick")))
                        .findFirst()
                        .orElseThrow());
    }
}
