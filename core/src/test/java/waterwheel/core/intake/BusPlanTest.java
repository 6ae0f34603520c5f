package waterwheel.core.intake;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import java.nio.file.Path;
import java.util.List;
import java.util.OptionalInt;
import java.util.Random;
import java.util.stream.Collectors;
import java.util.stream.IntStream;
import org.junit.jupiter.api.DisplayNameGeneration;
import org.junit.jupiter.api.DisplayNameGenerator;
import org.junit.jupiter.api.RepeatedTest;
import org.junit.jupiter.api.RepetitionInfo;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;
import waterwheel.core.edit.FlowEdits;
import waterwheel.core.session.Channel;
import waterwheel.core.session.ChannelId;
import waterwheel.core.session.Output;
import waterwheel.core.session.Send;
import waterwheel.core.session.Session;
import waterwheel.core.session.Tap;
import waterwheel.core.testing.Sessions;

@DisplayNameGeneration(DisplayNameGenerator.ReplaceUnderscores.class)
class BusPlanTest {
    @TempDir
    Path folder;

    private Session session(String... names) throws Exception {
        Sessions made = new Sessions(folder);
        for (int i = 0; i < names.length; i++) {
            made.track("t" + i, "main", new float[10]);
        }
        Session session = made.build();
        for (int i = 0; i < names.length; i++) {
            String name = names[i];
            session = session.withChannel(Sessions.id("t" + i), c -> c.withName(name));
        }
        return session;
    }

    /** The way of each track to the main bus, in names: "Snare > Drums > Drums and percussion". */
    private static List<String> ways(Session session) {
        return session.tracks().stream().map(track -> way(session, track)).toList();
    }

    private static String way(Session session, Channel channel) {
        if (channel.strip().output() instanceof Output.ToBus to && !to.bus().equals(session.mainId())) {
            return channel.name() + " > " + way(session, session.channel(to.bus()));
        }
        return channel.name();
    }

    private static List<String> proposed(Session session) {
        return ways(BusPlan.of(session).edit().apply(session));
    }

    @Test
    void a_bus_that_is_there_is_fed_and_not_made_again_also_by_one_track_that_came_later() throws Exception {
        Session made = session("Kick in", "Snare", "Violin 1", "Cello", "Tom", "Gtr L");
        Session first =
                FlowEdits.busAround(made.channels().subList(0, 2), "drums").apply(made);
        Session second = BusPlan.of(first).edit().apply(first);
        assertThat(ways(second))
                .containsExactly(
                        "Kick in > drums",
                        "Snare > drums",
                        "Violin 1 > Strings",
                        "Cello > Strings",
                        "Tom > drums",
                        "Gtr L");
        // Named otherwise it is a bus of its own.
        BusPlan other = BusPlan.of(first).withName(0, "Toms");
        assertThat(ways(other.edit().apply(first))).contains("Snare > drums", "Tom > Toms");
    }

    @Test
    void a_return_is_no_bus_for_tracks_and_a_track_does_not_feed_what_it_taps() throws Exception {
        Session made = session("Room L", "Room R", "Kick", "Snare");
        Session back = FlowEdits.addReturn("Room").apply(made);
        ChannelId room = back.buses().stream()
                .filter(bus -> bus.name().equals("Room"))
                .findFirst()
                .orElseThrow()
                .id();
        Session sent = FlowEdits.addSend(back, back.channel(Sessions.id("t2")), Send.toBus(room, -6))
                .apply(back);
        assertThat(proposed(sent)).contains("Room L > Room 2", "Room R > Room 2");
        Session drums =
                FlowEdits.busAround(made.channels().subList(2, 4), "Drums").apply(made);
        Channel bus = drums.buses().getFirst();
        Session tapped = FlowEdits.addTapped(bus, Tap.Point.PRE_FADER).apply(drums);
        Channel tap = tapped.tracks().getLast();
        Session named = tapped.withChannel(tap.id(), channel -> channel.withName("Kick copy"));
        assertThat(ways(BusPlan.of(named).edit().apply(named))).contains("Kick > Drums", "Kick copy");
    }

    @Test
    void families_of_two_or_more_get_a_bus_each_and_two_that_belong_together_one_around_them() throws Exception {
        assertThat(proposed(session(
                        "Kick in",
                        "Snare",
                        "Bodhrán",
                        "Shaker",
                        "Violin 1",
                        "Cello",
                        "Gtr L",
                        "Gtr R",
                        "Bass DI",
                        "Zzz")))
                .containsExactly(
                        "Kick in > Drums > Drums and percussion",
                        "Snare > Drums > Drums and percussion",
                        "Bodhrán > Percussion > Drums and percussion",
                        "Shaker > Percussion > Drums and percussion",
                        "Violin 1 > Strings",
                        "Cello > Strings",
                        "Gtr L > Guitars",
                        "Gtr R > Guitars",
                        "Bass DI",
                        "Zzz");
    }

    @Test
    void one_of_a_family_feeds_the_bus_around_it() throws Exception {
        assertThat(proposed(session("Lead vox", "Bv 1", "Bv 2", "Trumpet", "Flute")))
                .containsExactly(
                        "Lead vox > Voices",
                        "Bv 1 > Backing voices > Voices",
                        "Bv 2 > Backing voices > Voices",
                        "Trumpet > Winds and brass",
                        "Flute > Winds and brass");
    }

    @Test
    void where_nobody_leads_there_are_just_voices() throws Exception {
        assertThat(proposed(session("Soprano 1", "Alto", "Tenor")))
                .containsExactly("Soprano 1 > Voices", "Alto > Voices", "Tenor > Voices");
        assertThat(proposed(session("Vox a", "Vox b"))).containsExactly("Vox a > Voices", "Vox b > Voices");
    }

    @ParameterizedTest
    @CsvSource({
        "Bass drum,DRUMS",
        "Sub kick,DRUMS",
        "Tom2,DRUMS",
        "Drum room,DRUMS",
        "Bass clarinet,WINDS",
        "Alto sax,WINDS",
        "Bass trombone,BRASS",
        "French horn,BRASS",
        "Synth bass,BASS",
        "Bass guitar DI,BASS",
        "Double bass mic,BASS",
        "String pad,KEYS",
        "Pipe organ,KEYS",
        "Lead guitar,GUITARS",
        "Chorus guitar,GUITARS",
        "Pedal steel,GUITARS",
        "Mandolin,GUITARS",
        "Harp,STRINGS",
        "Bodhrán close,PERCUSSION",
        "Cowbell,PERCUSSION",
        "Tom vox,LEAD_VOICE",
        "Lead,LEAD_VOICE",
        "Chorus voice 3,BACKING_VOICES",
        "Tenor 2,BACKING_VOICES",
        "FX riser,EFFECTS",
        "Room pair,ROOM"
    })
    void what_is_said_more_exactly_counts(String name, Family family) throws Exception {
        assertThat(Family.of(session(name).tracks().getFirst())).contains(family);
    }

    @Test
    void words_count_as_whole_words_only() throws Exception {
        // 'harp' is not in 'sharp', 'ride' not in 'bride'.
        assertThat(BusPlan.of(session("Sharpener", "Bride", "Sharp thing")).groups())
                .isEmpty();
    }

    @Test
    void a_track_is_moved_a_group_left_out_and_another_added() throws Exception {
        Session session = session("Kick", "Snare", "Gtr", "Banjo", "Zzz");
        BusPlan plan = BusPlan.of(session);
        assertThat(plan.groups()).extracting(BusPlan.Group::name).containsExactly("Drums", "Guitars");
        assertThat(plan.loose()).containsExactly(Sessions.id("t4"));

        plan = plan.withGroup("Odd ones")
                .withTrack(session, Sessions.id("t4"), OptionalInt.of(2))
                .withTrack(session, Sessions.id("t0"), OptionalInt.of(2))
                .withTrack(session, Sessions.id("t3"), OptionalInt.empty())
                .withName(0, " Snare alone ")
                .withName(2, "  ")
                .withMade(1, false);
        assertThat(plan.groups().get(2).tracks())
                .as("in the session's order")
                .containsExactly(Sessions.id("t0"), Sessions.id("t4"));
        assertThat(ways(plan.edit().apply(session)))
                .containsExactly("Kick > Odd ones", "Snare > Snare alone", "Gtr", "Banjo", "Zzz > Odd ones");
    }

    @Test
    void what_lies_in_a_bus_that_is_not_made_feeds_what_that_would_have_fed() throws Exception {
        Session session = session("Lead vox", "Bv 1", "Bv 2");
        BusPlan plan = BusPlan.of(session).withMade(0, false);
        assertThat(ways(plan.edit().apply(session)))
                .containsExactly("Lead vox", "Bv 1 > Backing voices", "Bv 2 > Backing voices");
        assertThat(BusPlan.of(session).depth(1)).isEqualTo(1);
        assertThat(plan.becomesBus(0)).isFalse();
    }

    @Test
    void a_bus_that_nothing_feeds_is_not_made() throws Exception {
        Session session = session("Kick", "Snare");
        BusPlan plan = BusPlan.of(session).withGroup("Empty");
        assertThat(plan.edit().apply(session).buses()).extracting(Channel::name).doesNotContain("Empty");
    }

    @Test
    void a_group_lies_in_one_before_it() {
        assertThatThrownBy(() ->
                        new BusPlan(List.of(new BusPlan.Group("A", OptionalInt.of(0), true, List.of())), List.of()))
                .isInstanceOf(IllegalArgumentException.class);
    }

    /** Whatever is moved about, each track is in the plan once, and the made session has nothing left to propose. */
    @RepeatedTest(20)
    void every_track_has_its_place_once(RepetitionInfo repetition) throws Exception {
        Random random = new Random(repetition.getCurrentRepetition());
        List<String> words =
                List.of("Kick", "Shaker", "Bass", "Gtr", "Piano", "Cello", "Flute", "Horn", "Vox", "Bv", "Qq");
        Session session = session(IntStream.range(0, 1 + random.nextInt(20))
                .mapToObj(i -> words.get(random.nextInt(words.size())) + " " + i)
                .toArray(String[]::new));
        BusPlan plan = BusPlan.of(session);
        assertThat(BusPlan.of(plan.edit().apply(session)).groups())
                .as("nothing is left to propose")
                .isEmpty();
        for (int i = 0; i < 10; i++) {
            ChannelId track = session.tracks()
                    .get(random.nextInt(session.tracks().size()))
                    .id();
            int to = random.nextInt(plan.groups().size() + 1) - 1;
            plan = plan.withTrack(session, track, to < 0 ? OptionalInt.empty() : OptionalInt.of(to));
        }
        List<ChannelId> placed =
                plan.groups().stream().flatMap(group -> group.tracks().stream()).collect(Collectors.toList());
        placed.addAll(plan.loose());
        assertThat(placed)
                .containsExactlyInAnyOrderElementsOf(
                        session.tracks().stream().map(Channel::id).toList());
        Session after = plan.edit().apply(session);
        assertThat(after.buses()).allSatisfy(bus -> assertThat(
                        after.channels().stream().filter(c -> c.strip().output().equals(Output.to(bus.id()))))
                .as("what feeds " + bus.name())
                .isNotEmpty());
    }
}
