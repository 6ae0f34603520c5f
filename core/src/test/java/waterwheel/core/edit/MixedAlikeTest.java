package waterwheel.core.edit;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatExceptionOfType;

import java.nio.file.Path;
import java.util.List;
import java.util.Optional;
import java.util.Set;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.DisplayNameGeneration;
import org.junit.jupiter.api.DisplayNameGenerator;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import waterwheel.core.errors.RoutingException;
import waterwheel.core.inserts.Insert;
import waterwheel.core.inserts.SlotId;
import waterwheel.core.processing.Compressor;
import waterwheel.core.processing.Convolution;
import waterwheel.core.processing.Equaliser;
import waterwheel.core.rides.Curve;
import waterwheel.core.rides.CurvePoint;
import waterwheel.core.rides.Ride;
import waterwheel.core.rides.Rides;
import waterwheel.core.session.Channel;
import waterwheel.core.session.ChannelId;
import waterwheel.core.session.Freeze;
import waterwheel.core.session.LinkGroup;
import waterwheel.core.session.NamedStem;
import waterwheel.core.session.Output;
import waterwheel.core.session.PanLaw;
import waterwheel.core.session.Placement;
import waterwheel.core.session.Send;
import waterwheel.core.session.Session;
import waterwheel.core.session.StemDivision;
import waterwheel.core.session.Tap;
import waterwheel.core.session.Track;
import waterwheel.core.session.Vca;
import waterwheel.core.sources.AudioSource;
import waterwheel.core.sources.SourceId;
import waterwheel.core.testing.Sessions;

@DisplayNameGeneration(DisplayNameGenerator.ReplaceUnderscores.class)
class MixedAlikeTest {
    private static final SlotId SLOT = new SlotId("one");

    @TempDir
    @SuppressWarnings("NullAway.Init")
    Path folder;

    private Session model;
    private Session other;

    /** The model has a bus of strings, a return with a response, a keyed compressor, a VCA and a link group. */
    @BeforeEach
    void two_songs_of_one_band() throws Exception {
        Session made = new Sessions(folder.resolve("model"))
                .bus("strings", "main")
                .bus("hall", "main")
                .track("fiddle", "strings", new float[100])
                .track("bass", "strings", new float[100])
                .track("voice", "main", new float[100])
                .track("whistle", "main", new float[100])
                .build();
        AudioSource response = new AudioSource(
                new SourceId("room"), "room.wav", 100, 1, Sessions.RATE, "float 32-bit", "hash", 5, Optional.empty());
        made = made.withMoreSources(List.of(response))
                .withPanLaw(PanLaw.MINUS_4_5)
                .withNominalDbfs(-20);
        made = made.withStrip(
                id("hall"),
                strip -> strip.withInserts(List.of(Insert.of(SLOT, Convolution.KIND)
                        .withProcessor(
                                Insert.of(SLOT, Convolution.KIND).processor().withResponse(response.id())))));
        made = made.withStrip(
                id("strings"), strip -> strip.withTrimDb(-4).withInserts(List.of(Insert.of(SLOT, Compressor.KIND))));
        made = made.withStrip(id("fiddle"), strip -> strip.withFaderDb(-3)
                .withTrimDb(7)
                .withPlacement(Placement.CENTRE.withPosition(-0.4))
                .withInserts(List.of(Insert.of(SLOT, Equaliser.KIND).with("bell1Db", -5)))
                .withSends(List.of(Send.toBus(id("hall"), -12))));
        made = made.withStrip(id("voice"), strip -> strip.withSends(List.of(Send.toKey(id("strings"), SLOT))));
        made = made.withVcas(
                List.of(new Vca(id("band"), "Band", -2, false, List.of(id("strings"), id("whistle")), List.of())));
        model = made.withLinks(List.of(new LinkGroup(
                id("pair"),
                "Pair",
                List.of(id("fiddle"), id("whistle")),
                List.of(),
                Set.of(LinkGroup.Attribute.FADER),
                List.of())));
        other = new Sessions(folder.resolve("other"))
                .track("bass", "main", new float[200])
                .track("fiddle", "main", new float[200])
                .track("harp", "main", new float[200])
                .track("voice", "main", new float[200])
                .build()
                .withStrip(id("fiddle"), strip -> strip.withTrimDb(-9));
        other = renamed(renamed(other, "fiddle", "01 Fiddle"), "voice", "Voice");
        model = renamed(model, "voice", "VOICE");
    }

    private static Session renamed(Session session, String id, String name) {
        return session.withChannel(id(id), channel -> channel.withName(name));
    }

    private static ChannelId id(String value) {
        return new ChannelId(value);
    }

    private MixedAlike laid() throws Exception {
        return MixedAlike.of(model, folder.resolve("model"), other, false);
    }

    @Test
    void the_division_into_stems_is_laid_over_with_those_who_have_counterparts() throws Exception {
        model = StemEdits.add("Strings", List.of(id("strings"), id("whistle"))).apply(model);
        model = StemEdits.add("Front", List.of(id("voice"))).apply(model);
        other = StemEdits.add("Own", List.of(id("harp"), id("voice"))).apply(other);
        other = StemEdits.add("front", List.of(id("bass"))).apply(other);
        ChannelId front = other.stems().named().getLast().id();
        MixedAlike alike = MixedAlike.of(model, folder.resolve("model"), other, false);
        StemDivision stems = alike.after().stems();
        assertThat(stems.by()).isEqualTo(StemDivision.By.NAMED);
        assertThat(stems.named()).extracting(NamedStem::name).containsExactly("Own", "Strings", "Front");
        assertThat(stems.named().get(0).members())
                .as("what is elsewhere now is not there too")
                .containsExactly(id("harp"));
        assertThat(stems.named().get(1).members())
                .extracting(member -> alike.after().channel(member).name())
                .containsExactly("strings");
        assertThat(stems.named().get(2).id()).isEqualTo(front);
        assertThat(alike.sentences())
                .contains("Stem Strings is new, of 1 members.", "Stem Front is put together otherwise.");
    }

    @Test
    void tracks_are_matched_by_name_whatever_its_spelling() throws Exception {
        MixedAlike laid = laid();
        assertThat(laid.matched()).isEqualTo(3);
        assertThat(laid.unmatched()).containsExactly("harp");
        assertThat(laid.wanting()).containsExactly("whistle");
    }

    @Test
    void of_two_of_a_name_the_one_of_the_same_kind_is_meant() throws Exception {
        other = renamed(renamed(other, "harp", "Voice"), "bass", "double bass");
        other = other.withChannel(id("harp"), channel -> ((Track) channel).withKind(Track.Kind.PERCUSSIVE));
        model = model.withChannel(id("voice"), channel -> ((Track) channel).withKind(Track.Kind.PERCUSSIVE));
        assertThat(laid().after().channel(id("harp")).strip().sends()).hasSize(1);
        assertThat(laid().after().channel(id("voice")).strip().sends()).isEmpty();
    }

    @Test
    void the_flow_is_the_models_and_the_recording_its_own() throws Exception {
        Session after = laid().after();
        Channel fiddle = after.channel(id("fiddle"));
        assertThat(fiddle.name()).isEqualTo("01 Fiddle");
        assertThat(fiddle.strip().output()).isEqualTo(Output.to(id("strings")));
        assertThat(fiddle.strip().faderDb()).isEqualTo(-3);
        assertThat(fiddle.strip().placement().position()).isEqualTo(-0.4);
        assertThat(fiddle.strip().inserts())
                .isEqualTo(model.channel(id("fiddle")).strip().inserts());
        assertThat(fiddle.strip().sends())
                .isEqualTo(model.channel(id("fiddle")).strip().sends());
        assertThat(fiddle.strip().trimDb()).as("the recording's own").isEqualTo(-9);
        assertThat(((Track) fiddle).clips()).isEqualTo(((Track) other.channel(id("fiddle"))).clips());
        assertThat(after.channel(id("strings")).strip().trimDb()).isEqualTo(-4);
        assertThat(after.channel(id("harp"))).as("what has no match").isEqualTo(other.channel(id("harp")));
        assertThat(after.panLaw()).isEqualTo(PanLaw.MINUS_4_5);
        assertThat(after.nominalDbfs()).isEqualTo(-20);
        assertThat(after.title()).isEqualTo(other.title());
        assertThat(after.findVca(id("band")).orElseThrow().members()).containsExactly(id("strings"));
        assertThat(after.links().getFirst().members()).containsExactly(id("fiddle"));
    }

    @Test
    void a_response_that_is_lacking_is_linked_and_one_that_is_there_is_used() throws Exception {
        Session after = laid().after();
        SourceId response = after.channel(id("hall"))
                .strip()
                .inserts()
                .getFirst()
                .processor()
                .response()
                .orElseThrow();
        assertThat(after.source(response).path())
                .isEqualTo(folder.resolve("model/room.wav").toAbsolutePath().toString());
        AudioSource same = new AudioSource(
                new SourceId("mine"), "mine.wav", 100, 1, Sessions.RATE, "float 32-bit", "hash", 5, Optional.empty());
        other = other.withMoreSources(List.of(same));
        assertThat(laid().after()
                        .channel(id("hall"))
                        .strip()
                        .inserts()
                        .getFirst()
                        .processor()
                        .response())
                .hasValue(same.id());
    }

    @Test
    void laid_over_itself_it_changes_nothing_and_twice_is_as_once() throws Exception {
        CurvePoint from = new CurvePoint(0, -5, CurvePoint.Shape.LINE);
        Ride ride = Ride.of(new Curve(List.of(from)));
        model = model.withStrip(id("fiddle"), strip -> strip.withRides(Rides.NONE.with("faderDb", ride)));
        for (boolean rides : new boolean[] {true, false}) {
            MixedAlike self = MixedAlike.of(model, folder.resolve("model"), model, rides);
            assertThat(self.after()).isEqualTo(model);
            assertThat(self.sentences()).isEmpty();
        }
        Session once = laid().after();
        assertThat(MixedAlike.of(model, folder.resolve("model"), once, false).after())
                .isEqualTo(once);
    }

    @Test
    void it_is_one_step_that_says_what_it_changes() throws Exception {
        MixedAlike laid = laid();
        History<Session> history =
                History.of(other).with(laid.edit().name(), laid.edit().apply(other), "");
        assertThat(history.present()).isEqualTo(laid.after());
        assertThat(history.undone().present()).isEqualTo(other);
        assertThat(laid.sentences())
                .anyMatch(one -> one.startsWith("strings is new: to Main, with Compressor"))
                .anyMatch(one -> one.startsWith("01 Fiddle: to strings instead of Main; inserts Equaliser"))
                .anyMatch(one -> one.startsWith("VCA Band is new"))
                .anyMatch(one -> one.startsWith("Pan law"))
                .noneMatch(one -> one.startsWith("harp"));
    }

    @Test
    void what_is_frozen_is_refused() throws Exception {
        SourceId frozen = other.sources().getFirst().id();
        other = other.withStrip(
                id("bass"), strip -> strip.withFreeze(Optional.of(new Freeze(Optional.empty(), frozen, "key"))));
        assertThatExceptionOfType(RoutingException.class)
                .isThrownBy(this::laid)
                .withMessageContaining("bass")
                .withMessageContaining("Unfreeze");
    }

    @Test
    void flows_that_together_close_a_loop_are_refused() throws Exception {
        // In the other a track hears the hall and feeds the strings; in the model the strings feed the hall.
        model = model.withStrip(id("strings"), strip -> strip.withOutput(Output.to(id("hall"))));
        Session tapped = new Sessions(folder.resolve("looped"))
                .bus("strings", "main")
                .bus("hall", "main")
                .track("fiddle", "main", new float[100])
                .build();
        Session with = FlowEdits.addTapped(tapped.channel(id("hall")), Tap.Point.PRE_FADER)
                .apply(tapped);
        Track hears = with.tracks().stream()
                .filter(track -> track.tap().isPresent())
                .findFirst()
                .orElseThrow();
        other = with.withStrip(hears.id(), strip -> strip.withOutput(Output.to(id("strings"))));
        assertThatExceptionOfType(RoutingException.class).isThrownBy(this::laid).withMessageContaining("loop");
    }
}
